"""What the benches are tried on."""

import pytest


@pytest.fixture(scope="module")
def machine(shop):
    return shop.shelf.machine("FB")
