"""`python -m gumption`."""

from gumption.cli.main import main

raise SystemExit(main())
