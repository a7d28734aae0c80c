-- Each try to send a message, with the other side's own words; and what reports and receipts said of it later.
CREATE TABLE attempts (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  message_id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  at DATETIME(3) NOT NULL,
  outcome ENUM('taken', 'putOff', 'refused', 'arrived', 'delayed', 'cameBack') NOT NULL,
  reply VARCHAR(500) NULL,
  KEY of_message (message_id, id)
);
-- What the receiving side said once it had been taken; a receipt may be here before the gateway's own answer.
ALTER TABLE messages ADD arrival ENUM('arrived', 'cameBack') NULL;

-- Addresses that nobody is behind: mail to them came back for good.
CREATE TABLE suspended_addresses (
  address VARCHAR(254) NOT NULL PRIMARY KEY,
  since DATETIME(3) NOT NULL,
  message_id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  reply VARCHAR(500) NOT NULL
);

-- How the stand-ins behave, where that is not well.
CREATE TABLE standin_moods (
  name VARCHAR(10) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  mood JSON NOT NULL
);
