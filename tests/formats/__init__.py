"""Tests of zittern/formats."""
