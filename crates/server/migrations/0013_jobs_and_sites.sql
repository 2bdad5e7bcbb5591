-- A reminder can be of a job: the visit that is begun from it is for that job, and answers it as it is closed.
ALTER TABLE reminder ADD COLUMN job TEXT;
-- Lowest air on record in each month at a site, as JSON, and how far it lies from the equator, degrees, south negative.
ALTER TABLE site ADD COLUMN lows TEXT;
ALTER TABLE site ADD COLUMN latitude REAL;
