"""A stand-in for a feed of series: made-up indices and exchange rates by day, over HTTP (docs/feed.md)."""
