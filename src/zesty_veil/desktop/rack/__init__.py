"""The Rack: paints as drawdowns, and measuring them."""
