-- How people start to be reached, before they choose for themselves: by group, by role, or everybody. The lowest place goes first.
CREATE TABLE starting_plans (
  place INT NOT NULL PRIMARY KEY,
  kind ENUM('everybody', 'role', 'group') NOT NULL,
  -- The role, or the group's id.
  named VARCHAR(120) COLLATE utf8mb4_bin NOT NULL DEFAULT '',
  plan JSON NOT NULL
);

-- Further addresses that somebody has confirmed, for single rules and sources.
CREATE TABLE further_addresses (
  person_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  address VARCHAR(254) NOT NULL,
  PRIMARY KEY (person_id, address)
);
-- Whether an address that waits to be confirmed stands beside the usual one, or in its place.
ALTER TABLE address_asks ADD is_further TINYINT(1) NOT NULL DEFAULT 0;

-- A page to choose a password on opens once: with the password it goes by another number.
ALTER TABLE people ADD welcome_number INT NOT NULL DEFAULT 0;
