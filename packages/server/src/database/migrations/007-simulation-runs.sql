-- Effects that are simulated apart from takes: what they are simulated from, and the jobs of a run know the rest.
CREATE TABLE simulation_runs (
  id VARCHAR(16) PRIMARY KEY,
  campaign_id VARCHAR(16) NOT NULL,
  shot_id VARCHAR(16) NOT NULL,
  effect_id VARCHAR(64) NOT NULL,
  level VARCHAR(12) NOT NULL,
  -- Frames to be simulated: its first is there without.
  frames INT NOT NULL,
  snapshot JSON NOT NULL,
  created_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY by_effect (shot_id, effect_id, level),
  FOREIGN KEY (campaign_id) REFERENCES campaigns (id) ON DELETE CASCADE
);
