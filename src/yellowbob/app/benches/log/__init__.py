"""The Log bench: builds, and what was weighed, tried and learnt of them."""
