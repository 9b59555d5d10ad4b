"""The packet's pages, each a function that draws whole sheets of it on the job's canvas and ends them."""
