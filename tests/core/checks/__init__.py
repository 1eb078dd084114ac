"""Tests of zittern/core/shot."""
