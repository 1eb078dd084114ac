"""Tests of zittern/core/rig."""
