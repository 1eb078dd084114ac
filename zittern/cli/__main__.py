"""`python -m zittern.cli`."""

from zittern.cli import main

main()
