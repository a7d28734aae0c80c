-- Machines that rules may tell: what each is called, who set it up, the secret before the present one, and since when it has failed.
ALTER TABLE webhooks
  ADD name VARCHAR(120) NOT NULL DEFAULT '',
  ADD owner_id VARCHAR(120) COLLATE utf8mb4_bin NULL,
  ADD old_secret VARCHAR(200) NULL,
  ADD old_until DATETIME(3) NULL,
  ADD failing_since DATETIME(3) NULL,
  ADD is_paused TINYINT(1) NOT NULL DEFAULT 0;
UPDATE webhooks SET name = id;
