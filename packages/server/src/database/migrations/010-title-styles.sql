-- Styles of titles that a person keeps, for any promo; sizes are of one 540 pixels high.
CREATE TABLE title_styles (
  id VARCHAR(16) PRIMARY KEY,
  person_id VARCHAR(16) NOT NULL,
  name VARCHAR(120) NOT NULL,
  style JSON NOT NULL,
  created_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY by_person (person_id, created_at),
  FOREIGN KEY (person_id) REFERENCES people (id) ON DELETE CASCADE
);
