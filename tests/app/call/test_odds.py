"""The shop's own history in the odds of later jobs."""

from bottega.app.job.answer import diagnose


def test_closed_jobs_feed_the_odds_of_later_ones_and_of_no_earlier_one(shop):
    assert diagnose(shop, "0387").job.opened.odds == {}
    assert diagnose(shop, "0412").job.opened.odds["rotor_slips"] > 1.1
    assert diagnose(shop, "0408").job.opened.odds == {}
