-- Deciding is one turn after another, in one order for all servers; each turn raises the number.
ALTER TABLE world_version ADD COLUMN turn BIGINT NOT NULL DEFAULT 0;

-- Who changed an item before, and who made it: what a rule may ask of a change.
ALTER TABLE changes ADD COLUMN previous_by VARCHAR(140) COLLATE utf8mb4_bin NULL, ADD COLUMN made_by VARCHAR(140) COLLATE utf8mb4_bin NULL;

-- How a rule stands from one instant to the next: each pause, resuming and new version begins another phase.
CREATE TABLE rule_phases (
  rule_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  epoch INT NOT NULL,
  version INT NOT NULL,
  since DATETIME(3) NOT NULL,
  until DATETIME(3) NULL,
  is_paused TINYINT(1) NOT NULL DEFAULT 0,
  burst_since INT NOT NULL,
  schedule_since INT NOT NULL,
  schedule_before INT NULL,
  put_by VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  PRIMARY KEY (rule_id, epoch)
);
INSERT INTO rule_phases (rule_id, epoch, version, since, until, burst_since, schedule_since, put_by)
  SELECT rule_id, version, version, live_from, live_until, 1, version, put_live_by FROM rule_versions;

-- What people do that is decided in order with the changes: reading, acknowledging, going live, resuming.
CREATE TABLE act_queue (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  at DATETIME(3) NOT NULL,
  act JSON NOT NULL,
  tries INT NOT NULL DEFAULT 0,
  not_before DATETIME(3) NULL,
  error VARCHAR(1000) NULL,
  KEY by_time (at)
);

-- The engine's own rows, each with a key and a group by which it is asked for; the columns beside `value` are for looking at.
CREATE TABLE engine_rows (
  id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  seq BIGINT NOT NULL AUTO_INCREMENT,
  shelf VARCHAR(12) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  of_group CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  rule_id VARCHAR(120) COLLATE utf8mb4_bin NULL,
  item_id VARCHAR(120) COLLATE utf8mb4_bin NULL,
  recipient VARCHAR(140) COLLATE utf8mb4_bin NULL,
  value JSON NOT NULL,
  UNIQUE KEY arrival (seq),
  KEY grouped (of_group, seq),
  KEY of_rule (shelf, rule_id)
);

-- Everything that waits is a row with a due time, run in the order of its columns.
DROP TABLE timers;
DROP TABLE waiting;
CREATE TABLE timers (
  id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  seq BIGINT NOT NULL AUTO_INCREMENT,
  due_at DATETIME(3) NOT NULL,
  of_rank TINYINT NOT NULL,
  rule_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  item_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  person_id VARCHAR(140) COLLATE utf8mb4_bin NOT NULL,
  of_task TINYINT NOT NULL,
  timer JSON NOT NULL,
  tries INT NOT NULL DEFAULT 0,
  not_before DATETIME(3) NULL,
  error VARCHAR(1000) NULL,
  UNIQUE KEY arrival (seq),
  KEY due (due_at, of_rank, rule_id, item_id, person_id, of_task, seq)
);

-- The engine's own id of an alert, and what brought it about.
ALTER TABLE alerts ADD COLUMN alert_key VARCHAR(600) COLLATE utf8mb4_bin NOT NULL DEFAULT '', ADD COLUMN occasion ENUM('change', 'due', 'idle') NOT NULL DEFAULT 'change';
ALTER TABLE messages MODIFY channel ENUM('inApp', 'email', 'text', 'webhook') NOT NULL, ADD COLUMN recipient ENUM('person', 'contact', 'webhook') NOT NULL DEFAULT 'person';
ALTER TABLE messages MODIFY person_id VARCHAR(140) COLLATE utf8mb4_bin NOT NULL;
ALTER TABLE withheld MODIFY person_id VARCHAR(140) COLLATE utf8mb4_bin NOT NULL;

-- Matches that came to nothing.
CREATE TABLE dropped (
  id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  at DATETIME(3) NOT NULL,
  rule_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  item_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  changes JSON NOT NULL,
  reason ENUM('undone', 'skipped') NOT NULL,
  KEY by_rule (rule_id, at)
);

-- People outside, and machines, whom rules may tell.
CREATE TABLE contacts (
  id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  name VARCHAR(200) NOT NULL,
  email VARCHAR(254) NULL,
  is_confirmed TINYINT(1) NOT NULL DEFAULT 0,
  has_left_all TINYINT(1) NOT NULL DEFAULT 0
);
CREATE TABLE contact_leavings (
  contact_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  rule_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  PRIMARY KEY (contact_id, rule_id)
);
CREATE TABLE webhooks (
  id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  url VARCHAR(500) NOT NULL,
  secret VARCHAR(200) NOT NULL
);

-- What people do not want to hear, what they keep an eye on, and who is in Ojo now.
CREATE TABLE mutes (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  person_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  rule_id VARCHAR(120) COLLATE utf8mb4_bin NULL,
  item_id VARCHAR(120) COLLATE utf8mb4_bin NULL,
  until VARCHAR(40) NULL,
  KEY of_person (person_id)
);
CREATE TABLE followers (
  item_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  person_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  PRIMARY KEY (item_id, person_id)
);
CREATE TABLE presence (
  person_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  server VARCHAR(40) NOT NULL,
  until DATETIME(3) NOT NULL,
  PRIMARY KEY (person_id, server)
);
CREATE TABLE wordings (
  id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  name VARCHAR(200) NOT NULL,
  subject VARCHAR(500) NULL,
  body TEXT NULL
);

-- What the stand-in for machines received.
CREATE TABLE standin_hooks (
  id INT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  path VARCHAR(200) NOT NULL,
  idempotency_key VARCHAR(120) NOT NULL,
  body MEDIUMTEXT NOT NULL,
  received_at DATETIME(3) NOT NULL,
  UNIQUE KEY once (idempotency_key)
);
