-- Where somebody is signed in, as they see it themselves; one by the house's own sign-in has that one's second factor.
ALTER TABLE sessions
  ADD opened_at DATETIME(3) NULL,
  ADD seen_at DATETIME(3) NULL,
  ADD agent VARCHAR(300) NOT NULL DEFAULT '',
  ADD origin VARCHAR(60) NULL,
  ADD by_house TINYINT(1) NOT NULL DEFAULT 0,
  ADD KEY of_person (person_id);

-- Tries to guess what lets somebody in, while they count; a subject is the digest of what is guessed by whom.
CREATE TABLE wrong_tries (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  subject CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  at DATETIME(3) NOT NULL,
  KEY of_subject (subject, at),
  KEY by_age (at)
);

-- The second thing by which somebody signs in: a secret that their telephone knows, and codes for when it is lost.
CREATE TABLE second_factors (
  person_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  secret VARCHAR(300) CHARACTER SET ascii NOT NULL,
  is_on TINYINT(1) NOT NULL DEFAULT 0,
  since DATETIME(3) NOT NULL,
  last_step BIGINT NOT NULL DEFAULT 0,
  spare_codes JSON NOT NULL
);

-- Of whom a second factor is asked.
CREATE TABLE house_signing_in (
  one TINYINT NOT NULL PRIMARY KEY,
  second_factor ENUM('nobody', 'stewards', 'everybody') NOT NULL
);
INSERT INTO house_signing_in VALUES (1, 'nobody');

-- A sealed secret is longer than a bare one.
ALTER TABLE secrets MODIFY secret VARCHAR(300) NOT NULL;
ALTER TABLE webhooks MODIFY secret VARCHAR(500) NOT NULL, MODIFY old_secret VARCHAR(500) NULL;
