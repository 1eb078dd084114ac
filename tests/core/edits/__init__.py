"""Tests of zittern/core/edits."""
