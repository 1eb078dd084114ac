"""Tests of zittern/core."""
