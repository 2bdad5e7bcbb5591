-- Twelve monthly mean temperatures of a site, January first, °C, as JSON; NULL: unknown.
ALTER TABLE site ADD COLUMN climate TEXT;
-- South of the equator the year turns round.
ALTER TABLE site ADD COLUMN southern INTEGER NOT NULL DEFAULT 0 CHECK (southern IN (0, 1));
