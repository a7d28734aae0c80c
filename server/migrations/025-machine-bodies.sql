-- How a machine is told: by an event, or in JSON or text of the house's own.
ALTER TABLE webhooks
  ADD body_kind ENUM('event', 'json', 'text') NOT NULL DEFAULT 'event',
  ADD body_template TEXT NULL;
