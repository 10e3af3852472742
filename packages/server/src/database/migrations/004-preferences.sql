-- What a person has chosen for themselves: key set and keys of their own.
ALTER TABLE people ADD COLUMN preferences JSON NULL;
