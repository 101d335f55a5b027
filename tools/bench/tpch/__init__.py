"""The TPC-H benchmark: its queries as plans, its own SQL, and its data from a generator."""
