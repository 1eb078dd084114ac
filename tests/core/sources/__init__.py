"""Tests of zittern/core/sources."""
