-- Alerts of tallies that passed their mark, and of reports.
ALTER TABLE alerts MODIFY occasion ENUM('change', 'due', 'idle', 'tally', 'report') NOT NULL DEFAULT 'change';
