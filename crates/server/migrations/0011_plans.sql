-- Plans that were kept: what was set, what it began with, and what came of it when it was kept.
CREATE TABLE plan (
    id TEXT PRIMARY KEY,
    -- Null: a bank that is not on the books.
    bank_id TEXT REFERENCES bank (id) ON DELETE CASCADE,
    -- The visit it is attached to.
    visit_id TEXT REFERENCES visit (id) ON DELETE SET NULL,
    -- Which planner, as a word of JSON.
    planner TEXT NOT NULL,
    name TEXT NOT NULL,
    -- By key of the control: JSON.
    entries TEXT NOT NULL,
    -- What each began with then: JSON.
    begun TEXT NOT NULL,
    -- Unit of its temperatures.
    unit TEXT NOT NULL,
    -- The sentence it came to.
    said TEXT NOT NULL,
    made_at TEXT NOT NULL,
    person_id TEXT,
    person TEXT NOT NULL,
    device TEXT NOT NULL,
    sent TEXT NOT NULL,
    -- When it was thrown away; null: it stands.
    withdrawn_at TEXT
) STRICT;
CREATE INDEX plan_of_bank ON plan (bank_id);
CREATE INDEX plan_of_visit ON plan (visit_id);
CREATE TRIGGER archived_plan BEFORE INSERT ON plan
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
