-- What came in (new, or used with its age and tests), where the old one went, what was kept all the same: JSON.
ALTER TABLE block_change ADD COLUMN more TEXT NOT NULL DEFAULT '{}';
-- Instruments that a person has not, JSON; empty: all of them.
ALTER TABLE person ADD COLUMN without TEXT NOT NULL DEFAULT '[]';
