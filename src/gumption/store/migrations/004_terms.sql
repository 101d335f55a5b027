CREATE TABLE term (
  id INT PRIMARY KEY AUTO_INCREMENT,
  workspace_id INT NOT NULL REFERENCES workspace (id),
  word VARCHAR(200) NOT NULL,
  description TEXT NOT NULL,
  made_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  UNIQUE (workspace_id, word)
);

ALTER TABLE trail_entry
  ADD COLUMN terms TEXT NOT NULL DEFAULT '[]';
