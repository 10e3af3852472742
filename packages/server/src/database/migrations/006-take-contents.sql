-- What each frame of a take shows: frames with equal digests are the same picture, and rendered once.
CREATE TABLE take_contents (
  take_id VARCHAR(16) NOT NULL,
  frame INT NOT NULL,
  content CHAR(32) NOT NULL,
  PRIMARY KEY (take_id, frame),
  KEY by_content (content),
  FOREIGN KEY (take_id) REFERENCES takes (id) ON DELETE CASCADE
);
