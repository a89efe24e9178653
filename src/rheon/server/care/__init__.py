"""What keeps an installation well over the years, without Django: its database, its copies, and a look at all of it."""
