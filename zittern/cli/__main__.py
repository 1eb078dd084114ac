"""`python -m zittern.cli`."""

from zittern.cli.running import main

main()
