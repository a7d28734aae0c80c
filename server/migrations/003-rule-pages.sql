-- Why a version was put live, in the words of who did it.
ALTER TABLE rule_versions ADD COLUMN why VARCHAR(500) NULL;
-- A rule that was deleted stays for the record, and can be brought back.
ALTER TABLE rules ADD COLUMN deleted_at DATETIME(3) NULL;

-- Who has a rule open to edit it: a row runs out by itself.
CREATE TABLE rule_editors (
  rule_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  person_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  until DATETIME(3) NOT NULL,
  PRIMARY KEY (rule_id, person_id)
);

-- Whom a rule told that it tells them.
CREATE TABLE rule_listeners (
  rule_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  person_id VARCHAR(140) COLLATE utf8mb4_bin NOT NULL,
  since DATETIME(3) NOT NULL,
  PRIMARY KEY (rule_id, person_id)
);

-- Who looks after a source: coordinators make rules for others only there. A source with none is every coordinator's.
CREATE TABLE source_coordinators (
  source_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  person_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  PRIMARY KEY (source_id, person_id)
);

-- Filtered views of a source that have a name.
CREATE TABLE views (
  id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  source_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  name VARCHAR(120) NOT NULL,
  asked JSON NOT NULL,
  owner_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  created_at DATETIME(3) NOT NULL,
  KEY of_source (source_id, name)
);

-- The trail by who did it, and by what happened.
ALTER TABLE changes ADD KEY by_actor (actor, at), ADD KEY by_kind (kind, at), ADD KEY of_batch (batch);
