-- Whose turn it is among jobs of one priority: lower goes first. That of a subject's first job, until its place in the queue is changed.
ALTER TABLE jobs ADD turn BIGINT NOT NULL DEFAULT 0;
UPDATE jobs j JOIN (SELECT subject_id, MIN(id) AS first FROM jobs GROUP BY subject_id) s ON s.subject_id = j.subject_id
  SET j.turn = s.first, j.updated_at = j.updated_at;
ALTER TABLE jobs DROP KEY claimable, ADD KEY claimable (queue, state, waits, priority, turn, id);
