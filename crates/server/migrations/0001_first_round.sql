-- The nouns of the trade. Addresses are computed from placement and never stored on readings.
CREATE TABLE person (
    id TEXT PRIMARY KEY,
    initials TEXT NOT NULL,
    units TEXT NOT NULL,
    theme TEXT NOT NULL,
    single_keys INTEGER NOT NULL,
    created_at TEXT NOT NULL
) STRICT;

CREATE TABLE site (
    id TEXT PRIMARY KEY,
    name TEXT NOT NULL,
    kind TEXT NOT NULL,
    zone TEXT NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    sent TEXT NOT NULL,
    created_at TEXT NOT NULL
) STRICT;

CREATE TABLE battery_model (
    id TEXT PRIMARY KEY,
    body TEXT NOT NULL,
    shipped INTEGER NOT NULL,
    sent TEXT NOT NULL,
    -- Figures as they were typed, with their units.
    typed TEXT,
    created_at TEXT NOT NULL
) STRICT;

CREATE TABLE house_rules (
    key TEXT NOT NULL,
    version INTEGER NOT NULL,
    body TEXT NOT NULL,
    shipped INTEGER NOT NULL,
    PRIMARY KEY (key, version)
) STRICT;

CREATE TABLE instrument (
    id INTEGER PRIMARY KEY,
    body TEXT NOT NULL UNIQUE
) STRICT;

CREATE TABLE bank (
    id TEXT PRIMARY KEY,
    site_id TEXT NOT NULL REFERENCES site (id),
    name TEXT NOT NULL,
    duty TEXT NOT NULL,
    model_id TEXT NOT NULL REFERENCES battery_model (id),
    in_service TEXT,
    rules_key TEXT NOT NULL,
    rules_version INTEGER NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    sent TEXT NOT NULL,
    created_at TEXT NOT NULL,
    archived_at TEXT,
    FOREIGN KEY (rules_key, rules_version) REFERENCES house_rules (key, version)
) STRICT;
CREATE INDEX bank_by_site ON bank (site_id);

-- How a bank stands from a day on.
CREATE TABLE layout (
    bank_id TEXT NOT NULL REFERENCES bank (id) ON DELETE CASCADE,
    from_day TEXT NOT NULL,
    shape TEXT NOT NULL,
    PRIMARY KEY (bank_id, from_day)
) STRICT;

-- A battery has a life of its own; it stands somewhere from a day to a day.
CREATE TABLE block (
    id TEXT PRIMARY KEY,
    model_id TEXT NOT NULL REFERENCES battery_model (id),
    serial TEXT,
    date_code TEXT
) STRICT;

CREATE TABLE placement (
    block_id TEXT NOT NULL REFERENCES block (id),
    bank_id TEXT NOT NULL REFERENCES bank (id) ON DELETE CASCADE,
    battery TEXT NOT NULL,
    from_day TEXT NOT NULL,
    to_day TEXT,
    PRIMARY KEY (block_id, from_day)
) STRICT;
CREATE INDEX placement_by_bank ON placement (bank_id, battery);

CREATE TABLE visit (
    id TEXT PRIMARY KEY,
    bank_id TEXT NOT NULL REFERENCES bank (id) ON DELETE CASCADE,
    started_at TEXT NOT NULL,
    ended_at TEXT
) STRICT;
CREATE INDEX visit_by_bank ON visit (bank_id);

CREATE TABLE round (
    id TEXT PRIMARY KEY,
    bank_id TEXT NOT NULL REFERENCES bank (id),
    visit_id TEXT NOT NULL REFERENCES visit (id),
    origin TEXT NOT NULL,
    started_at TEXT NOT NULL,
    finished_at TEXT,
    finished_by TEXT,
    zone TEXT NOT NULL,
    instrument_id INTEGER NOT NULL REFERENCES instrument (id),
    conditions TEXT NOT NULL,
    reversed INTEGER NOT NULL,
    version INTEGER NOT NULL,
    person TEXT NOT NULL,
    device TEXT NOT NULL,
    sent TEXT NOT NULL,
    -- Conditions as they were typed last, with their units; none where nobody typed them.
    typed TEXT
) STRICT;
CREATE INDEX round_by_bank ON round (bank_id, started_at);

-- Append only: a correction supersedes, a removal withdraws.
CREATE TABLE reading (
    seq INTEGER PRIMARY KEY,
    id TEXT NOT NULL UNIQUE,
    round_id TEXT NOT NULL REFERENCES round (id),
    block_id TEXT NOT NULL REFERENCES block (id),
    cell INTEGER NOT NULL,
    kind TEXT NOT NULL,
    gravity REAL,
    typed TEXT,
    temperature REAL,
    temperature_typed TEXT,
    temperature_unit TEXT,
    reason TEXT,
    stands INTEGER NOT NULL,
    supersedes TEXT REFERENCES reading (id),
    person TEXT NOT NULL,
    device TEXT NOT NULL,
    taken_at TEXT NOT NULL,
    received_at TEXT NOT NULL,
    sent TEXT NOT NULL
) STRICT;
CREATE INDEX reading_by_round ON reading (round_id, seq);

-- Derived: the latest judgement of a finished round, rebuilt from readings at any time.
CREATE TABLE assessment (
    round_id TEXT PRIMARY KEY REFERENCES round (id) ON DELETE CASCADE,
    bank_id TEXT NOT NULL REFERENCES bank (id) ON DELETE CASCADE,
    input_key TEXT NOT NULL,
    rules_revision INTEGER NOT NULL,
    condition TEXT NOT NULL,
    centre REAL,
    spread REAL,
    lowest TEXT,
    lowest_gravity REAL,
    cells_judged INTEGER NOT NULL,
    verdict TEXT NOT NULL,
    body TEXT NOT NULL
) STRICT;
CREATE INDEX assessment_by_bank ON assessment (bank_id);

CREATE TABLE judged_cell (
    round_id TEXT NOT NULL REFERENCES assessment (round_id) ON DELETE CASCADE,
    block_id TEXT NOT NULL,
    cell INTEGER NOT NULL,
    corrected REAL NOT NULL,
    deviation REAL NOT NULL,
    condition TEXT NOT NULL,
    PRIMARY KEY (round_id, block_id, cell)
) STRICT, WITHOUT ROWID;

CREATE TABLE event_log (
    seq INTEGER PRIMARY KEY,
    at TEXT NOT NULL,
    person TEXT,
    what TEXT NOT NULL,
    subject TEXT NOT NULL
) STRICT;
