-- What a bank was said to be made of before: what lies before a day is judged by what stood until then.
CREATE TABLE bank_model_before (
    bank_id TEXT NOT NULL REFERENCES bank (id) ON DELETE CASCADE,
    model_id TEXT NOT NULL REFERENCES battery_model (id),
    -- First day of the one that followed; null: it never was right, or another exchange overruled it.
    until_day TEXT,
    person_id TEXT,
    person TEXT NOT NULL DEFAULT '',
    at TEXT NOT NULL
) STRICT;
CREATE INDEX bank_model_before_of ON bank_model_before (bank_id);
CREATE TRIGGER archived_bank_model BEFORE UPDATE OF model_id ON bank
WHEN OLD.archived_at IS NOT NULL AND NEW.model_id <> OLD.model_id
BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
