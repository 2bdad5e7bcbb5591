-- Counts changes, for If-Match.
ALTER TABLE person ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
-- What a device may do: everything, or visits alone.
ALTER TABLE device ADD COLUMN scope TEXT NOT NULL DEFAULT 'all';

-- What lets a person's calendar program read what is due; kept as its hash.
CREATE TABLE calendar_feed (
    id TEXT PRIMARY KEY,
    person_id TEXT NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    token_hash TEXT NOT NULL UNIQUE,
    made_at TEXT NOT NULL,
    revoked_at TEXT
) STRICT;
CREATE INDEX calendar_feed_by_person ON calendar_feed (person_id);

-- Rows that could not be read, taken out of their tables by `rainshadow doctor --repair`.
CREATE TABLE set_aside (
    seq INTEGER PRIMARY KEY,
    from_table TEXT NOT NULL,
    -- The row as JSON, by column.
    contents TEXT NOT NULL,
    reason TEXT NOT NULL,
    at TEXT NOT NULL
) STRICT;

-- An archived bank takes nothing, whichever road it comes by.
CREATE TRIGGER archived_round BEFORE INSERT ON round
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_round_edit BEFORE UPDATE ON round
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_reading BEFORE INSERT ON reading
WHEN (SELECT b.archived_at FROM round r JOIN bank b ON b.id = r.bank_id WHERE r.id = NEW.round_id) IS NOT NULL
BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_visit BEFORE INSERT ON visit
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_visit_edit BEFORE UPDATE ON visit
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_visit_gone BEFORE DELETE ON visit
WHEN (SELECT archived_at FROM bank WHERE id = OLD.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_entry BEFORE INSERT ON visit_entry
WHEN (SELECT b.archived_at FROM visit v JOIN bank b ON b.id = v.bank_id WHERE v.id = NEW.visit_id) IS NOT NULL
BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_photo BEFORE INSERT ON photo
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_photo_edit BEFORE UPDATE ON photo
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_reminder BEFORE INSERT ON reminder
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_reminder_done BEFORE UPDATE ON reminder
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_postponement BEFORE INSERT ON postponement
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_change BEFORE INSERT ON block_change
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_change_undone BEFORE UPDATE ON block_change
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_equipment BEFORE INSERT ON equipment
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_run BEFORE INSERT ON run
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_run_entry BEFORE INSERT ON run_entry
WHEN (SELECT b.archived_at FROM run r JOIN bank b ON b.id = r.bank_id WHERE r.id = NEW.run_id) IS NOT NULL
BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_layout BEFORE INSERT ON layout
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_bank
BEFORE UPDATE OF name, duty, in_service, keeper, season_opens, season_closes, overrides, access, rules_key ON bank
WHEN OLD.archived_at IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_bank_gone BEFORE DELETE ON bank
WHEN OLD.archived_at IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
