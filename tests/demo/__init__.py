"""Tests of zittern/demo."""
