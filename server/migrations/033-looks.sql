-- In which folders it is noted who opens a document; what lies beneath follows.
ALTER TABLE folders ADD COLUMN notes_looks BOOLEAN NOT NULL DEFAULT FALSE;

-- Whoever merely opens a document makes no version of it.
ALTER TABLE changes MODIFY item_version INT NULL;
