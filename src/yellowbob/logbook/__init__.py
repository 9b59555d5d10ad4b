"""Builds and what was found of them: weigh-ins, tank and water tests, batches, and what they taught."""
