-- A plan of an archived bank is not thrown away either, and who throws one away stands in the event log.
CREATE TRIGGER archived_plan_thrown_away BEFORE UPDATE ON plan
WHEN (SELECT archived_at FROM bank WHERE id = NEW.bank_id) IS NOT NULL BEGIN SELECT RAISE(ABORT, 'bank archived'); END;
