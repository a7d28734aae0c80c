-- People and what they belong to.
CREATE TABLE people (
  id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  name VARCHAR(200) NOT NULL,
  title VARCHAR(200) NOT NULL DEFAULT '',
  email VARCHAR(254) NULL,
  phone VARCHAR(40) NULL,
  zone VARCHAR(64) NOT NULL,
  locale VARCHAR(20) NOT NULL,
  manager_id VARCHAR(120) COLLATE utf8mb4_bin NULL,
  is_active TINYINT(1) NOT NULL DEFAULT 1,
  role ENUM('member', 'coordinator', 'steward') NOT NULL DEFAULT 'member',
  plan JSON NULL,
  password_hash VARCHAR(255) NOT NULL
);

CREATE TABLE groups_of_people (
  id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  name VARCHAR(200) NOT NULL
);

CREATE TABLE group_members (
  group_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  kind ENUM('person', 'group') NOT NULL,
  member_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  PRIMARY KEY (group_id, kind, member_id)
);

CREATE TABLE sessions (
  id CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  person_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  expires_at DATETIME(3) NOT NULL,
  KEY expires (expires_at)
);

-- What can be watched, and who may read it.
CREATE TABLE sources (
  id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  kind ENUM('folders', 'list', 'records', 'stream') NOT NULL,
  name VARCHAR(200) NOT NULL,
  about VARCHAR(400) NOT NULL DEFAULT '',
  title_field VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  fields JSON NOT NULL,
  position INT NOT NULL
);

CREATE TABLE folders (
  id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  source_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  name VARCHAR(200) NOT NULL,
  parent_id VARCHAR(120) COLLATE utf8mb4_bin NULL,
  KEY source (source_id)
);

CREATE TABLE access_entries (
  id INT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  source_id VARCHAR(120) COLLATE utf8mb4_bin NULL,
  folder_id VARCHAR(120) COLLATE utf8mb4_bin NULL,
  readers JSON NOT NULL
);

-- One row: raised whenever people, sources, access or rules change, so that a kept copy knows its age.
CREATE TABLE world_version (
  id TINYINT NOT NULL PRIMARY KEY,
  version BIGINT NOT NULL
);
INSERT INTO world_version VALUES (1, 1);

CREATE TABLE items (
  id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  source_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  folder_id VARCHAR(120) COLLATE utf8mb4_bin NULL,
  title VARCHAR(400) NOT NULL,
  fields JSON NOT NULL,
  version INT NOT NULL,
  is_deleted TINYINT(1) NOT NULL DEFAULT 0,
  created_by VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  created_at DATETIME(3) NOT NULL,
  last_by VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  last_at DATETIME(3) NOT NULL,
  KEY listed (source_id, is_deleted, title(100)),
  KEY recent (source_id, is_deleted, last_at)
);

CREATE TABLE item_files (
  item_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  version INT NOT NULL,
  media_type VARCHAR(120) NOT NULL,
  bytes MEDIUMBLOB NOT NULL,
  PRIMARY KEY (item_id, version)
);

-- The trail. (source_id, id) identifies a change; seq is the order of arrival and nothing else relies on it.
CREATE TABLE changes (
  seq BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  source_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  item_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  item_version INT NOT NULL,
  kind VARCHAR(60) COLLATE utf8mb4_bin NOT NULL,
  actor VARCHAR(140) COLLATE utf8mb4_bin NOT NULL,
  at DATETIME(3) NOT NULL,
  fields_before JSON NULL,
  fields_after JSON NULL,
  folder_id VARCHAR(120) COLLATE utf8mb4_bin NULL,
  folder_before VARCHAR(120) COLLATE utf8mb4_bin NULL,
  batch VARCHAR(120) COLLATE utf8mb4_bin NULL,
  detail JSON NOT NULL,
  UNIQUE KEY identity (source_id, id),
  UNIQUE KEY of_item (item_id, item_version),
  KEY by_source (source_id, at),
  KEY by_time (at)
);

-- Changes not decided yet. A row is claimed by locking it and removed in the transaction that writes what follows.
CREATE TABLE change_queue (
  change_seq BIGINT NOT NULL PRIMARY KEY,
  item_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  at DATETIME(3) NOT NULL,
  tries INT NOT NULL DEFAULT 0,
  not_before DATETIME(3) NULL,
  error VARCHAR(1000) NULL,
  KEY of_item (item_id, change_seq),
  KEY by_time (at)
);

-- Rules: the edits that gather, and every version that was ever live.
CREATE TABLE rules (
  id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  owner_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  state ENUM('draft', 'live', 'ended') NOT NULL,
  version INT NOT NULL DEFAULT 0,
  draft JSON NULL,
  draft_revision INT NOT NULL DEFAULT 0,
  draft_by VARCHAR(120) COLLATE utf8mb4_bin NULL,
  draft_at DATETIME(3) NULL,
  created_at DATETIME(3) NOT NULL
);

CREATE TABLE rule_versions (
  rule_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  version INT NOT NULL,
  document JSON NOT NULL,
  live_from DATETIME(3) NOT NULL,
  live_until DATETIME(3) NULL,
  put_live_by VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  PRIMARY KEY (rule_id, version)
);

-- What was decided. Ids are derived from what is decided, so that deciding twice writes once.
CREATE TABLE alerts (
  id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  rule_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  version INT NOT NULL,
  at DATETIME(3) NOT NULL,
  items JSON NOT NULL,
  changes JSON NOT NULL,
  suppressed INT NOT NULL DEFAULT 0,
  KEY by_rule (rule_id, at)
);

CREATE TABLE alert_changes (
  alert_id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  source_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  change_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  rule_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  PRIMARY KEY (alert_id, source_id, change_id),
  KEY of_change (source_id, change_id)
);

CREATE TABLE messages (
  id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  seq BIGINT NOT NULL AUTO_INCREMENT,
  person_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  channel ENUM('inApp', 'email', 'text') NOT NULL,
  address VARCHAR(254) NOT NULL,
  at DATETIME(3) NOT NULL,
  form VARCHAR(20) NOT NULL,
  urgency ENUM('routine', 'important', 'critical') NOT NULL,
  subject VARCHAR(500) NOT NULL,
  -- The words as they go out, where they are not made from the content: text messages.
  body VARCHAR(2000) NULL,
  -- What it says; where it is the same as another message's to the same person, that one's id stands instead.
  content JSON NULL,
  content_of CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NULL,
  fate ENUM('waiting', 'sending', 'delivered', 'failed', 'withheld') NOT NULL,
  fate_at DATETIME(3) NULL,
  reply VARCHAR(500) NULL,
  tries INT NOT NULL DEFAULT 0,
  retry_at DATETIME(3) NULL,
  lease_until DATETIME(3) NULL,
  read_at DATETIME(3) NULL,
  UNIQUE KEY arrival (seq),
  KEY inbox (person_id, channel, at),
  KEY unread (person_id, channel, read_at),
  KEY to_send (fate, retry_at)
);

CREATE TABLE message_alerts (
  message_id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  alert_id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  rule_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  items JSON NOT NULL,
  PRIMARY KEY (message_id, alert_id),
  KEY of_alert (alert_id),
  KEY of_rule (rule_id)
);

CREATE TABLE withheld (
  alert_id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  item_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  person_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  rule_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  reason VARCHAR(20) NOT NULL,
  at DATETIME(3) NOT NULL,
  PRIMARY KEY (alert_id, item_id, person_id),
  KEY by_time (at),
  KEY by_rule (rule_id, at)
);

-- Everything that waits is a row with a due time.
CREATE TABLE timers (
  id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  kind ENUM('digest', 'later') NOT NULL,
  due_at DATETIME(3) NOT NULL,
  payload JSON NOT NULL,
  tries INT NOT NULL DEFAULT 0,
  not_before DATETIME(3) NULL,
  error VARCHAR(1000) NULL,
  KEY due (due_at)
);

CREATE TABLE waiting (
  seq BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  person_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  channel ENUM('inApp', 'email', 'text') NOT NULL,
  due_at DATETIME(3) NOT NULL,
  alert_id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  item_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  told JSON NOT NULL,
  UNIQUE KEY one_each (person_id, channel, due_at, alert_id, item_id)
);

-- The stand-ins' own shelves: what the outside world received.
CREATE TABLE standin_mail (
  id INT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  address VARCHAR(254) NOT NULL,
  sender VARCHAR(300) NOT NULL,
  subject VARCHAR(500) NOT NULL,
  message_id VARCHAR(300) NOT NULL,
  received_at DATETIME(3) NOT NULL,
  source MEDIUMTEXT NOT NULL,
  KEY box (address, received_at)
);

CREATE TABLE standin_texts (
  id INT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  number VARCHAR(40) NOT NULL,
  body VARCHAR(2000) NOT NULL,
  reference VARCHAR(120) NOT NULL,
  received_at DATETIME(3) NOT NULL,
  UNIQUE KEY once (reference),
  KEY phone (number, received_at)
);

-- What has been done once, such as laying out the demo.
CREATE TABLE marks (
  name VARCHAR(60) NOT NULL PRIMARY KEY,
  at DATETIME(3) NOT NULL
);
