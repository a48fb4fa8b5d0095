"""The cut as found: a tool's shape carried along its path through the stock that is there."""
