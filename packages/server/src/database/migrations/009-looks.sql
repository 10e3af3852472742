-- Layers with their keys that a person keeps, to put them on the rack of any shot: each a shot document of nothing else.
CREATE TABLE looks (
  id VARCHAR(16) PRIMARY KEY,
  person_id VARCHAR(16) NOT NULL,
  name VARCHAR(120) NOT NULL,
  document JSON NOT NULL,
  created_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY by_person (person_id, created_at),
  FOREIGN KEY (person_id) REFERENCES people (id) ON DELETE CASCADE
);
