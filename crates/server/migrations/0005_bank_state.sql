-- The state of a bank: its condition and everything that was found and stands, worked out with what is
-- due on it.
ALTER TABLE due_state ADD COLUMN state TEXT NOT NULL DEFAULT '';
CREATE TRIGGER due_equipment AFTER INSERT ON equipment BEGIN
    DELETE FROM due_state WHERE bank_id = NEW.bank_id;
END;
-- Nothing ever compared it: rows are forgotten by triggers and by the revision of the rules.
ALTER TABLE assessment DROP COLUMN input_key;
-- Findings are known by ids, no more by words.
UPDATE postponement SET subject = 'non_responding ' || substr(subject, 8) WHERE subject LIKE 'silent %';
