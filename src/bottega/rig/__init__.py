"""A washer made of physics. It takes plates, panels, programmes and operations from the library,
and no likelihood."""
