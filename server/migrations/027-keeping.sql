-- For how many days things are kept; NULL is for ever.
CREATE TABLE keeping (
  what ENUM('messages', 'trail', 'engine', 'sessions') NOT NULL PRIMARY KEY,
  days INT NULL
);
INSERT INTO keeping (what, days) VALUES ('messages', 730), ('trail', NULL), ('engine', 90), ('sessions', 14);

-- How much was taken away on which day.
CREATE TABLE cleanings (
  day DATE NOT NULL,
  what ENUM('messages', 'trail', 'engine', 'sessions') NOT NULL,
  count BIGINT NOT NULL,
  PRIMARY KEY (day, what)
);

-- A message whose words stand with another goes only once nobody's words stand with it.
ALTER TABLE messages ADD KEY by_content (content_of), ADD KEY by_age (at);
