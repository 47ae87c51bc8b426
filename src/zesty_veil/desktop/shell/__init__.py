"""The window round the stations: menus, commands, files, start-up."""
