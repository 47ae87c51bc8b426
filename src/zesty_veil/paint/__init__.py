"""Pigments, paints, mixtures, tools and what a coat lays down."""
