-- What signs links that open by themselves; one for all servers of a house.
CREATE TABLE secrets (
  name VARCHAR(40) NOT NULL PRIMARY KEY,
  secret VARCHAR(120) NOT NULL
);

-- Addresses that somebody gave and has yet to say yes to, one by channel: a person's second address or number, an outside contact's address.
CREATE TABLE address_asks (
  id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  owner_kind ENUM('person', 'contact') NOT NULL,
  owner_id VARCHAR(254) COLLATE utf8mb4_bin NOT NULL,
  channel ENUM('email', 'text') NOT NULL,
  address VARCHAR(254) NOT NULL,
  -- What a number is confirmed with, and how often somebody tried.
  code VARCHAR(8) NULL,
  tries INT NOT NULL DEFAULT 0,
  asked_at DATETIME(3) NOT NULL,
  -- Counted, so that nobody is asked for ever.
  times INT NOT NULL DEFAULT 1,
  UNIQUE KEY one_of_each (owner_kind, owner_id, channel)
);

-- Numbers that answered STOP.
CREATE TABLE silenced_numbers (
  number VARCHAR(40) NOT NULL PRIMARY KEY,
  at DATETIME(3) NOT NULL
);

-- Where a person's email goes instead of their own address, once they have confirmed it.
ALTER TABLE people ADD COLUMN mail_to VARCHAR(254) NULL;

-- A text message that is answered is found by its number.
ALTER TABLE messages ADD KEY by_address (channel, address, at);

-- Whoever has not confirmed is looked for by the reason.
ALTER TABLE withheld ADD KEY by_reason (reason, at);

-- Something that somebody passed on, and what those it was passed to say of it.
CREATE TABLE talks (
  id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  source_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  item_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  -- The changes that were passed on, and what a date or a standstill said of it.
  changes JSON NOT NULL,
  notes JSON NOT NULL,
  began_by VARCHAR(140) COLLATE utf8mb4_bin NOT NULL,
  at DATETIME(3) NOT NULL,
  KEY of_item (item_id, at)
);
CREATE TABLE talk_people (
  talk_id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  person_id VARCHAR(140) COLLATE utf8mb4_bin NOT NULL,
  PRIMARY KEY (talk_id, person_id)
);
CREATE TABLE talk_words (
  id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  talk_id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  person_id VARCHAR(140) COLLATE utf8mb4_bin NOT NULL,
  at DATETIME(3) NOT NULL,
  words VARCHAR(2000) NOT NULL,
  KEY of_talk (talk_id, at)
);

-- What somebody answered from a stand-in's telephone.
ALTER TABLE standin_texts ADD COLUMN is_answer TINYINT(1) NOT NULL DEFAULT 0;
