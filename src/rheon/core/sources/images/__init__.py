"""Where a disc lies: folder, image or drive."""
