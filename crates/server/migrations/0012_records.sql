-- Records of monitors, controllers and inverters, as they were read from files.
CREATE TABLE record_import (
    id TEXT PRIMARY KEY,
    bank_id TEXT NOT NULL REFERENCES bank (id) ON DELETE CASCADE,
    -- How its source writes: JSON; and the words over its columns, by which another file of it is known.
    source TEXT NOT NULL,
    header TEXT NOT NULL,
    file TEXT NOT NULL,
    -- Its first and last minute since 1970, UTC; null while it is read.
    first_minute INTEGER,
    last_minute INTEGER,
    -- 1 where it tells what goes into the bank and comes out of it.
    net INTEGER NOT NULL,
    -- What was read: JSON; and stretches in which the current runs the other way: JSON.
    told TEXT,
    other_way TEXT NOT NULL DEFAULT '[]',
    made_at TEXT NOT NULL,
    person_id TEXT,
    person TEXT NOT NULL,
    device TEXT NOT NULL,
    sent TEXT NOT NULL,
    -- Null while it is read: what never ended counts for nothing.
    finished_at TEXT,
    -- When it was taken out; null: it counts.
    withdrawn_at TEXT
) STRICT;
CREATE INDEX record_of_bank ON record_import (bank_id);
-- Rows of a minute, a day of universal time each, packed.
CREATE TABLE record_day (
    import_id TEXT NOT NULL REFERENCES record_import (id) ON DELETE CASCADE,
    -- Days since 1970.
    day INTEGER NOT NULL,
    minutes BLOB NOT NULL,
    PRIMARY KEY (import_id, day)
) STRICT;
-- What the last year of the record of a bank tells, kept: the key holds all that it was told from.
CREATE TABLE record_judged (
    bank_id TEXT PRIMARY KEY REFERENCES bank (id) ON DELETE CASCADE,
    judged_by TEXT NOT NULL,
    judged TEXT NOT NULL
) STRICT;
CREATE TRIGGER due_record AFTER UPDATE OF finished_at, withdrawn_at ON record_import BEGIN
    DELETE FROM due_state WHERE bank_id = NEW.bank_id;
END;
CREATE TRIGGER archived_record BEFORE INSERT ON record_import
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
CREATE TRIGGER archived_record_taken BEFORE UPDATE ON record_import
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
