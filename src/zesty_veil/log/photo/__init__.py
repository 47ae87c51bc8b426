"""Reading a painted card off a photograph: marks, perspective, light, tone, patches."""
