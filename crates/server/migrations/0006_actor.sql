-- Who acted, by the id of the person; the initials beside it stay as they were then. History outlives
-- the person, so nothing refers to the row of a person.
ALTER TABLE round ADD COLUMN person_id TEXT;
ALTER TABLE reading ADD COLUMN person_id TEXT;
ALTER TABLE visit ADD COLUMN person_id TEXT;
ALTER TABLE visit_entry ADD COLUMN person_id TEXT;
ALTER TABLE photo ADD COLUMN person_id TEXT;
ALTER TABLE run ADD COLUMN person_id TEXT;
ALTER TABLE run_entry ADD COLUMN person_id TEXT;
ALTER TABLE equipment ADD COLUMN person_id TEXT;
ALTER TABLE reminder ADD COLUMN person_id TEXT;
ALTER TABLE postponement ADD COLUMN person_id TEXT;
ALTER TABLE block_change ADD COLUMN person_id TEXT;
ALTER TABLE event_log ADD COLUMN person_id TEXT;
