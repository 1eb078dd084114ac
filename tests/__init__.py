"""All tests; the folders mirror the source."""
