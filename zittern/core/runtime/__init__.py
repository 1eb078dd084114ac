"""The cost of requests, and late imports.

budget  limits of time and memory for one request
later   parts of scipy that are imported on first use
"""
