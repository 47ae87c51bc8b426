"""What was really painted: cards and what they tell of paints and hands, and the log."""
