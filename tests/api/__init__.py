"""Tests of zittern/api."""
