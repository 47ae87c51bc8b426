"""The Section station: the section through the paint is the control."""
