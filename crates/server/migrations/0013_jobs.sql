-- A reminder can be of a job: the visit that is begun from it is for that job, and answers it as it is closed.
ALTER TABLE reminder ADD COLUMN job TEXT;
