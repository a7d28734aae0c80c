-- What is to be sent is claimed channel by channel, by looking at that channel's messages alone: a claim passes over
-- what another claim is just looking at.
ALTER TABLE messages ADD KEY to_claim (channel, fate, seq);
