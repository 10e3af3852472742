-- Where a take lies on its shot's shelf: lower ones first. New takes lie on top until they are put elsewhere.
ALTER TABLE takes ADD position INT NOT NULL DEFAULT 0;
