"""Judgements about a plan: what will go wrong, where, how much, why, and the remedy."""
