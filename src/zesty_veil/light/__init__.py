"""Grid, illuminants and observers, colour spaces: arrays in, arrays out."""
