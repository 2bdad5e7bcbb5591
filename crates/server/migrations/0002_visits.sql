-- A visit grows from the shell of a round to a whole service call.
ALTER TABLE visit ADD COLUMN whole INTEGER NOT NULL DEFAULT 0;
ALTER TABLE visit ADD COLUMN zone TEXT NOT NULL DEFAULT 'UTC';
ALTER TABLE visit ADD COLUMN person TEXT NOT NULL DEFAULT '';
ALTER TABLE visit ADD COLUMN device TEXT NOT NULL DEFAULT '';
ALTER TABLE visit ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE visit ADD COLUMN sent TEXT NOT NULL DEFAULT '';
ALTER TABLE visit ADD COLUMN closed_by TEXT;
-- What its report was printed from, kept when the visit is closed.
ALTER TABLE visit ADD COLUMN report TEXT;
CREATE UNIQUE INDEX visit_open ON visit (bank_id) WHERE whole = 1 AND ended_at IS NULL;

ALTER TABLE site ADD COLUMN region TEXT NOT NULL DEFAULT '';
-- Days of any year, as 05-15.
ALTER TABLE site ADD COLUMN wet_season TEXT;
ALTER TABLE site ADD COLUMN first_frost TEXT;
-- Who looks after it: initials.
ALTER TABLE bank ADD COLUMN keeper TEXT NOT NULL DEFAULT '';
ALTER TABLE bank ADD COLUMN season_opens TEXT;
ALTER TABLE bank ADD COLUMN season_closes TEXT;
-- Single choices of the house rules that this bank takes otherwise.
ALTER TABLE bank ADD COLUMN overrides TEXT NOT NULL DEFAULT '{}';
-- What a visitor must know before he stands there.
ALTER TABLE bank ADD COLUMN access TEXT NOT NULL DEFAULT '{}';
ALTER TABLE bank ADD COLUMN access_by TEXT NOT NULL DEFAULT '';

-- Everything written down on a visit; append only. The place is a block and its cell, or a string,
-- or neither for the whole bank: addresses are computed from placement.
CREATE TABLE visit_entry (
    seq INTEGER PRIMARY KEY,
    id TEXT NOT NULL UNIQUE,
    visit_id TEXT NOT NULL REFERENCES visit (id) ON DELETE CASCADE,
    kind TEXT NOT NULL,
    block_id TEXT REFERENCES block (id),
    cell INTEGER,
    string INTEGER,
    body TEXT NOT NULL,
    typed TEXT,
    person TEXT NOT NULL,
    device TEXT NOT NULL,
    taken_at TEXT NOT NULL,
    received_at TEXT NOT NULL,
    sent TEXT NOT NULL
) STRICT;
CREATE INDEX visit_entry_by_visit ON visit_entry (visit_id, seq);

-- Photographs are files named by their hash in the data folder, written before their row.
CREATE TABLE photo (
    id TEXT PRIMARY KEY,
    visit_id TEXT NOT NULL REFERENCES visit (id) ON DELETE CASCADE,
    bank_id TEXT NOT NULL REFERENCES bank (id) ON DELETE CASCADE,
    -- What it shows: wiring, finding, or other.
    what TEXT NOT NULL,
    -- The check it belongs to, where it shows a finding.
    subject TEXT NOT NULL,
    block_id TEXT REFERENCES block (id),
    cell INTEGER,
    string INTEGER,
    hash TEXT NOT NULL,
    small_hash TEXT NOT NULL,
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    note TEXT NOT NULL,
    person TEXT NOT NULL,
    device TEXT NOT NULL,
    taken_at TEXT NOT NULL,
    removed_by TEXT,
    sent TEXT NOT NULL
) STRICT;
CREATE INDEX photo_by_visit ON photo (visit_id);
CREATE INDEX photo_by_bank ON photo (bank_id, taken_at);

CREATE TABLE reminder (
    id TEXT PRIMARY KEY,
    bank_id TEXT NOT NULL REFERENCES bank (id) ON DELETE CASCADE,
    day TEXT NOT NULL,
    text TEXT NOT NULL,
    person TEXT NOT NULL,
    done_by TEXT,
    sent TEXT NOT NULL
) STRICT;
CREATE INDEX reminder_by_bank ON reminder (bank_id);

CREATE TABLE postponement (
    id TEXT PRIMARY KEY,
    bank_id TEXT NOT NULL REFERENCES bank (id) ON DELETE CASCADE,
    task TEXT NOT NULL,
    subject TEXT NOT NULL,
    from_day TEXT NOT NULL,
    until_day TEXT NOT NULL,
    reason TEXT NOT NULL,
    person TEXT NOT NULL,
    sent TEXT NOT NULL
) STRICT;
CREATE INDEX postponement_by_bank ON postponement (bank_id);

-- Derived: what is due on a bank, forgotten when anything it is worked out from changes.
CREATE TABLE due_item (
    bank_id TEXT NOT NULL REFERENCES bank (id) ON DELETE CASCADE,
    place INTEGER NOT NULL,
    consequence INTEGER NOT NULL,
    day TEXT NOT NULL,
    -- What to order and count by without reading the whole item.
    task TEXT NOT NULL,
    body TEXT NOT NULL,
    PRIMARY KEY (bank_id, place)
) STRICT, WITHOUT ROWID;
CREATE INDEX due_item_by_day ON due_item (day);
CREATE TABLE due_state (
    bank_id TEXT PRIMARY KEY REFERENCES bank (id) ON DELETE CASCADE,
    revision INTEGER NOT NULL,
    kwh REAL NOT NULL,
    -- The forecast of the next fill and the day it was made for.
    forecast TEXT
) STRICT;

CREATE TRIGGER due_entry AFTER INSERT ON visit_entry BEGIN
    DELETE FROM due_state WHERE bank_id = (SELECT bank_id FROM visit WHERE id = NEW.visit_id);
END;
CREATE TRIGGER due_judged AFTER INSERT ON assessment BEGIN DELETE FROM due_state WHERE bank_id = NEW.bank_id; END;
CREATE TRIGGER due_unjudged AFTER DELETE ON assessment BEGIN DELETE FROM due_state WHERE bank_id = OLD.bank_id; END;
CREATE TRIGGER due_round AFTER UPDATE ON round BEGIN DELETE FROM due_state WHERE bank_id = NEW.bank_id; END;
CREATE TRIGGER due_visit AFTER UPDATE OF ended_at ON visit BEGIN DELETE FROM due_state WHERE bank_id = NEW.bank_id; END;
CREATE TRIGGER due_bank AFTER UPDATE ON bank BEGIN DELETE FROM due_state WHERE bank_id = NEW.id; END;
CREATE TRIGGER due_site AFTER UPDATE ON site BEGIN
    DELETE FROM due_state WHERE bank_id IN (SELECT id FROM bank WHERE site_id = NEW.id);
END;
CREATE TRIGGER due_reminder AFTER INSERT ON reminder BEGIN DELETE FROM due_state WHERE bank_id = NEW.bank_id; END;
CREATE TRIGGER due_reminded AFTER UPDATE ON reminder BEGIN DELETE FROM due_state WHERE bank_id = NEW.bank_id; END;
CREATE TRIGGER due_postponed AFTER INSERT ON postponement BEGIN
    DELETE FROM due_state WHERE bank_id = NEW.bank_id;
END;
CREATE TRIGGER due_placed AFTER INSERT ON placement BEGIN DELETE FROM due_state WHERE bank_id = NEW.bank_id; END;
CREATE TRIGGER due_moved AFTER UPDATE ON placement BEGIN DELETE FROM due_state WHERE bank_id = NEW.bank_id; END;
CREATE TRIGGER due_layout AFTER INSERT ON layout BEGIN DELETE FROM due_state WHERE bank_id = NEW.bank_id; END;

-- A battery was replaced, or two changed places; undone by a mark, never erased.
CREATE TABLE block_change (
    id TEXT PRIMARY KEY,
    bank_id TEXT NOT NULL REFERENCES bank (id) ON DELETE CASCADE,
    day TEXT NOT NULL,
    kind TEXT NOT NULL,
    battery TEXT NOT NULL,
    other TEXT,
    out_block TEXT NOT NULL REFERENCES block (id),
    in_block TEXT NOT NULL REFERENCES block (id),
    reason TEXT NOT NULL,
    person TEXT NOT NULL,
    at TEXT NOT NULL,
    undone_by TEXT,
    sent TEXT NOT NULL
) STRICT;
CREATE INDEX block_change_by_bank ON block_change (bank_id, day);

-- Devices let in beyond this machine; their token is kept as its hash.
CREATE TABLE device (
    id TEXT PRIMARY KEY,
    name TEXT NOT NULL,
    token_hash TEXT NOT NULL UNIQUE,
    paired_at TEXT NOT NULL,
    seen_at TEXT NOT NULL,
    revoked_at TEXT
) STRICT;
