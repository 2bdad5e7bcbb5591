-- A model of the shop's own can be put right: each version that stood is kept.
ALTER TABLE battery_model ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
CREATE TABLE battery_model_before (
    id TEXT NOT NULL REFERENCES battery_model (id),
    version INTEGER NOT NULL,
    body TEXT NOT NULL,
    typed TEXT,
    -- When it was put right.
    until TEXT NOT NULL,
    PRIMARY KEY (id, version)
) STRICT;
