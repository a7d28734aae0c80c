-- A claim reads what it takes and nothing more, however much waits: what is to be sent stands in the order in which it is
-- taken, by the instant from which it may be (again), critical ones apart; for webhooks address by address, so that one
-- whose receiver hangs is passed over whole. What has met its fate has no such instant.
ALTER TABLE messages
  ADD COLUMN claim_at DATETIME(3) AS (IF(fate = 'waiting', COALESCE(retry_at, at), IF(fate = 'sending', lease_until, NULL))) PERSISTENT,
  ADD COLUMN is_critical TINYINT AS (urgency = 'critical') PERSISTENT;
ALTER TABLE messages
  DROP KEY to_claim,
  ADD KEY to_claim (channel, is_critical, claim_at, seq),
  ADD KEY to_claim_at (channel, address, is_critical, claim_at, seq);
