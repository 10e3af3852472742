-- Revisions that somebody named are kept for good; all others thin out with age.
ALTER TABLE revisions ADD COLUMN name VARCHAR(120) NULL, ADD KEY by_age (created_at);

-- Uses of files by kept revisions and snapshots stand beside those by documents, so that a sweep need not read them.
ALTER TABLE asset_uses MODIFY user_kind VARCHAR(24) NOT NULL, MODIFY user_id VARCHAR(64) NOT NULL,
  ADD KEY by_user (user_kind, user_id);

INSERT IGNORE INTO asset_uses (hash, user_kind, user_id)
SELECT a.hash, 'revision', CONCAT(r.kind, ' ', r.document_id, ' ', r.revision)
FROM revisions r JOIN assets a ON r.document LIKE CONCAT('%', a.hash, '%');

INSERT IGNORE INTO asset_uses (hash, user_kind, user_id)
SELECT a.hash, 'take', t.id FROM takes t JOIN assets a ON t.snapshot LIKE CONCAT('%', a.hash, '%');

INSERT IGNORE INTO asset_uses (hash, user_kind, user_id)
SELECT a.hash, 'delivery', d.id FROM deliveries d JOIN assets a ON d.snapshot LIKE CONCAT('%', a.hash, '%');
