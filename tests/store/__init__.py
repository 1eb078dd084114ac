"""Tests of zittern/store."""
