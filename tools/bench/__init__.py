"""Measuring: intake, plans and TPC-H against a yardstick; how questions are read over packs and wordings."""
