-- What charges a bank and what hangs on it; every version is kept.
CREATE TABLE equipment (
    bank_id TEXT NOT NULL REFERENCES bank (id) ON DELETE CASCADE,
    version INTEGER NOT NULL,
    body TEXT NOT NULL,
    -- Figures as they were typed, with their units.
    typed TEXT NOT NULL,
    person TEXT NOT NULL,
    at TEXT NOT NULL,
    PRIMARY KEY (bank_id, version)
) STRICT;

-- A run of an equalize. It belongs to a visit; a bank has one that is not over at most.
CREATE TABLE run (
    id TEXT PRIMARY KEY,
    bank_id TEXT NOT NULL REFERENCES bank (id) ON DELETE CASCADE,
    visit_id TEXT NOT NULL REFERENCES visit (id) ON DELETE CASCADE,
    kind TEXT NOT NULL,
    opened_at TEXT NOT NULL,
    zone TEXT NOT NULL,
    instrument TEXT NOT NULL,
    -- What it was planned with.
    plan TEXT NOT NULL,
    person TEXT NOT NULL,
    device TEXT NOT NULL,
    -- Derived from its entries: when it is over, and why.
    ended_at TEXT,
    ended_why TEXT,
    sent TEXT NOT NULL
) STRICT;
CREATE UNIQUE INDEX run_open ON run (bank_id) WHERE ended_at IS NULL;
CREATE INDEX run_by_bank ON run (bank_id, opened_at);

-- The cells it is watched by, pilot first.
CREATE TABLE run_cell (
    run_id TEXT NOT NULL REFERENCES run (id) ON DELETE CASCADE,
    place INTEGER NOT NULL,
    block_id TEXT NOT NULL REFERENCES block (id),
    cell INTEGER NOT NULL,
    PRIMARY KEY (run_id, place)
) STRICT, WITHOUT ROWID;

-- Everything written down of a run; append only.
CREATE TABLE run_entry (
    seq INTEGER PRIMARY KEY,
    id TEXT NOT NULL UNIQUE,
    run_id TEXT NOT NULL REFERENCES run (id) ON DELETE CASCADE,
    body TEXT NOT NULL,
    typed TEXT,
    person TEXT NOT NULL,
    device TEXT NOT NULL,
    at TEXT NOT NULL,
    sent TEXT NOT NULL
) STRICT;
CREATE INDEX run_entry_by_run ON run_entry (run_id, seq);

CREATE TRIGGER due_ran AFTER UPDATE OF ended_at ON run BEGIN DELETE FROM due_state WHERE bank_id = NEW.bank_id; END;

-- Samples of a charger as they came, kept raw for seven days. Times are milliseconds since 1970.
CREATE TABLE feed_sample (
    bank_id TEXT NOT NULL REFERENCES bank (id) ON DELETE CASCADE,
    at INTEGER NOT NULL,
    volts REAL NOT NULL,
    amperes REAL NOT NULL,
    celsius REAL,
    stage TEXT,
    mark TEXT NOT NULL,
    PRIMARY KEY (bank_id, at)
) STRICT, WITHOUT ROWID;
CREATE INDEX feed_sample_by_time ON feed_sample (at);

-- The same by the minute, for good: samples that count, and how many did not.
CREATE TABLE feed_minute (
    bank_id TEXT NOT NULL REFERENCES bank (id) ON DELETE CASCADE,
    minute INTEGER NOT NULL,
    samples INTEGER NOT NULL,
    marked INTEGER NOT NULL,
    volts_low REAL,
    volts_sum REAL NOT NULL,
    volts_high REAL,
    amperes_low REAL,
    amperes_sum REAL NOT NULL,
    amperes_high REAL,
    celsius_low REAL,
    celsius_sum REAL NOT NULL,
    celsius_high REAL,
    celsius_samples INTEGER NOT NULL,
    PRIMARY KEY (bank_id, minute)
) STRICT, WITHOUT ROWID;
