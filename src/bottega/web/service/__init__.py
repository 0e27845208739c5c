"""The service run: led steps, each with its limits and its verdict."""
