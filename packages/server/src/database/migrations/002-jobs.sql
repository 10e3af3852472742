-- Long work of every kind in one table: who works on it, until when, how often it was tried, and what it waits for.
CREATE TABLE jobs (
  id BIGINT AUTO_INCREMENT PRIMARY KEY,
  -- Which workers serve it, and what they do.
  queue VARCHAR(16) NOT NULL,
  kind VARCHAR(24) NOT NULL,
  campaign_id VARCHAR(16) NOT NULL,
  -- What it is about: a take and its frame, a delivery, an import.
  subject_id VARCHAR(16) NOT NULL,
  part INT NOT NULL DEFAULT 0,
  -- waiting, working, paused, done, failed
  state VARCHAR(12) NOT NULL DEFAULT 'waiting',
  -- Lower goes first.
  priority INT NOT NULL DEFAULT 5,
  -- Jobs that must be done before it and are not yet.
  waits INT NOT NULL DEFAULT 0,
  attempts INT NOT NULL DEFAULT 0,
  owner VARCHAR(40),
  lease_until TIMESTAMP(3) NULL,
  progress FLOAT NOT NULL DEFAULT 0,
  seconds FLOAT,
  error VARCHAR(500),
  payload JSON,
  result JSON,
  created_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  updated_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3) ON UPDATE CURRENT_TIMESTAMP(3),
  UNIQUE KEY one (subject_id, kind, part),
  KEY claimable (queue, state, waits, priority, id),
  KEY leases (state, lease_until),
  KEY by_campaign (campaign_id, updated_at),
  FOREIGN KEY (campaign_id) REFERENCES campaigns (id) ON DELETE CASCADE
);

CREATE TABLE job_waits (
  job_id BIGINT NOT NULL,
  waits_for BIGINT NOT NULL,
  PRIMARY KEY (job_id, waits_for),
  KEY waited_for (waits_for),
  FOREIGN KEY (job_id) REFERENCES jobs (id) ON DELETE CASCADE,
  FOREIGN KEY (waits_for) REFERENCES jobs (id) ON DELETE CASCADE
);

-- Frames of takes that are not final are one job each.
INSERT INTO jobs (queue, kind, campaign_id, subject_id, part, state, seconds, error, created_at)
SELECT 'render', 'take-frame', t.campaign_id, t.id, f.frame,
  CASE WHEN f.state IN ('done', 'failed') THEN f.state WHEN t.state = 'rendering' THEN 'waiting' ELSE 'paused' END,
  f.seconds, f.error, t.created_at
FROM takes t JOIN take_frames f ON f.take_id = t.id WHERE t.quality <> 'final' ORDER BY t.created_at, f.frame;

-- Frames of final takes are traced, then developed with those on either side.
INSERT INTO jobs (queue, kind, campaign_id, subject_id, part, state, error, created_at)
SELECT 'render', 'take-trace', t.campaign_id, t.id, f.frame,
  CASE WHEN f.state IN ('done', 'traced', 'developing') THEN 'done' WHEN f.state = 'failed' THEN 'failed'
    WHEN t.state = 'rendering' THEN 'waiting' ELSE 'paused' END,
  f.error, t.created_at
FROM takes t JOIN take_frames f ON f.take_id = t.id WHERE t.quality = 'final' ORDER BY t.created_at, f.frame;

INSERT INTO jobs (queue, kind, campaign_id, subject_id, part, state, priority, seconds, created_at)
SELECT 'render', 'take-develop', t.campaign_id, t.id, f.frame,
  CASE WHEN f.state = 'done' THEN 'done' WHEN t.state IN ('rendering', 'failed') THEN 'waiting' ELSE 'paused' END,
  4, f.seconds, t.created_at
FROM takes t JOIN take_frames f ON f.take_id = t.id WHERE t.quality = 'final' ORDER BY t.created_at, f.frame;

INSERT INTO job_waits (job_id, waits_for)
SELECT d.id, n.id FROM jobs d JOIN jobs n
  ON n.subject_id = d.subject_id AND n.kind = 'take-trace' AND n.part BETWEEN d.part - 3 AND d.part + 3
WHERE d.kind = 'take-develop' AND d.state <> 'done';

UPDATE jobs d SET waits = (
  SELECT COUNT(*) FROM job_waits w JOIN jobs n ON n.id = w.waits_for WHERE w.job_id = d.id AND n.state <> 'done'
) WHERE d.kind = 'take-develop';

INSERT INTO jobs (queue, kind, campaign_id, subject_id, state, progress, error, created_at)
SELECT 'encode', 'delivery', campaign_id, id, CASE WHEN state IN ('done', 'failed') THEN state ELSE 'waiting' END,
  progress, error, created_at
FROM deliveries ORDER BY created_at, id;

DROP TABLE take_frames;
ALTER TABLE takes DROP COLUMN state, DROP COLUMN error;
ALTER TABLE deliveries DROP COLUMN state, DROP COLUMN progress, DROP COLUMN error;

-- How far each take is, from its jobs. Work that waits for something that failed will not come about by itself.
CREATE VIEW take_progress AS
SELECT t.id AS take_id,
  CASE
    WHEN SUM(j.state = 'working' OR (j.state = 'waiting' AND j.waits = 0)) > 0 THEN 'rendering'
    WHEN SUM(j.state = 'failed') > 0 THEN 'failed'
    WHEN SUM(j.state = 'paused') > 0 THEN 'stopped'
    WHEN SUM(j.state <> 'done') > 0 THEN 'rendering'
    ELSE 'done'
  END AS state
FROM takes t JOIN jobs j ON j.subject_id = t.id GROUP BY t.id;
