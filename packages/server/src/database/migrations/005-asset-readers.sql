-- Who may read a file: whoever brought it, and whoever had it made of something that they may read.
CREATE TABLE asset_readers (
  hash CHAR(64) NOT NULL,
  person_id VARCHAR(16) NOT NULL,
  PRIMARY KEY (hash, person_id),
  FOREIGN KEY (hash) REFERENCES assets (hash) ON DELETE CASCADE,
  FOREIGN KEY (person_id) REFERENCES people (id) ON DELETE CASCADE
);

-- Until now whoever had a document that names a file could read it.
INSERT IGNORE INTO asset_readers (hash, person_id)
SELECT u.hash, c.owner_id FROM asset_uses u JOIN campaigns c ON u.user_kind = 'campaign' AND u.user_id = c.id
UNION SELECT u.hash, c.owner_id FROM asset_uses u JOIN products d ON u.user_kind = 'product' AND u.user_id = d.id
  JOIN campaigns c ON c.id = d.campaign_id
UNION SELECT u.hash, c.owner_id FROM asset_uses u JOIN sets d ON u.user_kind = 'set' AND u.user_id = d.id
  JOIN campaigns c ON c.id = d.campaign_id
UNION SELECT u.hash, c.owner_id FROM asset_uses u JOIN promos d ON u.user_kind = 'promo' AND u.user_id = d.id
  JOIN campaigns c ON c.id = d.campaign_id
UNION SELECT u.hash, c.owner_id FROM asset_uses u JOIN takes d ON u.user_kind = 'take' AND u.user_id = d.id
  JOIN campaigns c ON c.id = d.campaign_id
UNION SELECT u.hash, r.person_id FROM asset_uses u JOIN revisions r
  ON u.user_kind = 'revision' AND u.user_id = CONCAT(r.kind, ' ', r.document_id, ' ', r.revision)
  WHERE r.person_id IN (SELECT id FROM people);

-- A file that was made plain for drawing, and what it was made of, which is kept as long.
CREATE TABLE asset_originals (
  hash CHAR(64) NOT NULL,
  original CHAR(64) NOT NULL,
  PRIMARY KEY (hash, original),
  FOREIGN KEY (hash) REFERENCES assets (hash) ON DELETE CASCADE,
  FOREIGN KEY (original) REFERENCES assets (hash)
);
