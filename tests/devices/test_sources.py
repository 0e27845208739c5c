"""What a stand-in's probes touch."""

import json
import threading
from http.server import BaseHTTPRequestHandler, HTTPServer

import pytest

from bottega.devices.sources import SourceError, fixed_source, rig_source


def test_figures_that_stay_are_touched_and_nothing_else():
    touch = fixed_source(["resistance=184", "ac_volts=2.3e2"])
    assert (touch("resistance"), touch("ac_volts"), touch("current")) == (184, 230, None)


@pytest.mark.parametrize(
    ("text", "found"),
    [("warmth=3", "'warmth'"), ("resistance=high", "'high'"), ("resistance", "'' for resistance")],
)
def test_what_is_no_figure_is_said(text, found):
    with pytest.raises(SourceError, match=found):
        fixed_source([text])


class Page(BaseHTTPRequestHandler):
    """Answers as a machine's page does: the amount that is in the quantity's name."""

    def do_GET(self):
        asked = self.path.rpartition("quantity=")[2]
        told = {"resistance": 12.5, "current": None}.get(asked, "soon")
        body = b"no json" if told == "soon" else json.dumps({"amount": told}).encode()
        self.send_response(200)
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, *_):
        """Say nothing."""


def test_leads_on_the_rig_touch_what_its_page_answers():
    server = HTTPServer(("127.0.0.1", 0), Page)
    thread = threading.Thread(target=server.serve_forever, daemon=True)
    thread.start()
    touch = rig_source(f"http://127.0.0.1:{server.server_port}/rigs/one/")
    assert (touch("resistance"), touch("current"), touch("capacitance")) == (12.5, None, None)
    server.shutdown()
    server.server_close()
    assert touch("resistance") is None


def test_an_address_that_is_no_page_is_refused():
    with pytest.raises(SourceError, match="found 'file:///etc"):
        rig_source("file:///etc/passwd")
