-- Since when a message is tried: what cannot be sent is given up after three days, however often that was.
ALTER TABLE messages ADD COLUMN first_try_at DATETIME(3) NULL;
