"""The real page in headless Chromium."""
