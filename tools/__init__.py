"""What developers run: screenshots, and the glTF validator that the tests call."""
