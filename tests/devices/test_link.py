"""A line to a meter, whatever the meter does."""

from queue import Queue

from tests.devices.test_rude_meter import rude, silent

from bottega.devices.link import Link, Links, MeterSample


def test_a_line_lives_whatever_its_meter_does():
    """An error nobody thought of is told, and the line goes on."""
    opened = []

    class Odd:
        def read(self, quantity):
            if len(opened) == 1:
                raise ZeroDivisionError
            return 5.0

        def close(self):
            pass

    def opens(resource):
        opened.append(resource)
        return Odd()

    samples: Queue[MeterSample] = Queue()
    link = Link("odd", opens)
    link.listen("resistance", samples.put)
    assert "stands in the log" in samples.get(timeout=10).trouble
    assert samples.get(timeout=10).amount == 5.0
    link.leave(samples.put)


def test_a_trial_takes_no_hand_and_a_second_press_begins_no_second():
    with rude(silent) as line:
        links = Links()
        trial = links.begin_trial(line, ("resistance",))
        assert links.begin_trial(line, ("resistance",)) is trial
        assert not trial.over
        assert trial.wait(10)
        assert "takes too long" in trial.trouble
        assert links.begin_trial(line, ("resistance",)) is not trial
