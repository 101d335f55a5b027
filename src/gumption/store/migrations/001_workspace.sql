CREATE TABLE workspace (
  id INT PRIMARY KEY AUTO_INCREMENT,
  title VARCHAR(200) NOT NULL,
  as_of DATE NULL
);

CREATE TABLE data_table (
  id INT PRIMARY KEY AUTO_INCREMENT,
  workspace_id INT NOT NULL REFERENCES workspace (id),
  name VARCHAR(200) NOT NULL,
  description LONGTEXT NOT NULL,
  reading LONGTEXT NOT NULL,
  parquet VARCHAR(400) NOT NULL,
  original VARCHAR(400) NOT NULL,
  bytes BIGINT NOT NULL,
  seconds DOUBLE NOT NULL,
  UNIQUE (workspace_id, name)
);

CREATE TABLE relationship (
  id INT PRIMARY KEY AUTO_INCREMENT,
  workspace_id INT NOT NULL REFERENCES workspace (id),
  description TEXT NOT NULL
);

CREATE TABLE trail_entry (
  id INT PRIMARY KEY AUTO_INCREMENT,
  workspace_id INT NOT NULL REFERENCES workspace (id),
  parent_id INT NULL REFERENCES trail_entry (id),
  question TEXT NOT NULL,
  choice INT NOT NULL DEFAULT 0,
  status VARCHAR(20) NOT NULL,
  cautions INT NOT NULL,
  summary VARCHAR(200) NOT NULL,
  asked_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3)
);
