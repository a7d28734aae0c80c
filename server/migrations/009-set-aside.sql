-- What rules could not do, all others going on: once for each version, code and recipient, with how often.
CREATE TABLE rule_troubles (
  rule_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  version INT NOT NULL,
  code VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  recipient VARCHAR(270) COLLATE utf8mb4_bin NOT NULL,
  reason VARCHAR(200) NOT NULL,
  first_at DATETIME(3) NOT NULL,
  last_at DATETIME(3) NOT NULL,
  times INT NOT NULL DEFAULT 1,
  told_at DATETIME(3) NULL,
  PRIMARY KEY (rule_id, version, code, recipient),
  KEY untold (told_at)
);

-- Changes, acts and timers that could not be decided after several tries: all others go on, and somebody may try them again.
CREATE TABLE set_aside (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  kind ENUM('change', 'act', 'timer') NOT NULL,
  at DATETIME(3) NOT NULL,
  since DATETIME(3) NOT NULL,
  change_seq BIGINT NULL,
  content JSON NULL,
  code VARCHAR(80) NOT NULL,
  told_at DATETIME(3) NULL,
  KEY untold (told_at)
);

-- An address is as long as RFC 5321 lets it be, and stands for its contact until somebody is known by it.
ALTER TABLE messages MODIFY person_id VARCHAR(270) COLLATE utf8mb4_bin NOT NULL;
ALTER TABLE withheld MODIFY person_id VARCHAR(270) COLLATE utf8mb4_bin NOT NULL;
ALTER TABLE engine_rows MODIFY recipient VARCHAR(270) COLLATE utf8mb4_bin NULL;
ALTER TABLE timers MODIFY person_id VARCHAR(270) COLLATE utf8mb4_bin NOT NULL;
