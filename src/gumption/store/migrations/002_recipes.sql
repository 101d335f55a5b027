ALTER TABLE data_table
  ADD COLUMN recipe LONGTEXT NOT NULL DEFAULT '{}',
  ADD COLUMN meaning LONGTEXT NOT NULL DEFAULT '{}',
  ADD COLUMN origin LONGTEXT NOT NULL DEFAULT '{"kind": "upload"}',
  ADD COLUMN secret TEXT NULL,
  ADD COLUMN version INT NOT NULL DEFAULT 1;

CREATE TABLE table_version (
  id INT PRIMARY KEY AUTO_INCREMENT,
  workspace_id INT NOT NULL REFERENCES workspace (id),
  name VARCHAR(200) NOT NULL,
  version INT NOT NULL,
  description LONGTEXT NOT NULL,
  reading LONGTEXT NOT NULL,
  recipe LONGTEXT NOT NULL,
  parquet VARCHAR(400) NOT NULL,
  original VARCHAR(400) NOT NULL,
  bytes BIGINT NOT NULL,
  seconds DOUBLE NOT NULL,
  replaced_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  UNIQUE (workspace_id, name, version)
);

CREATE TABLE join_decision (
  id INT PRIMARY KEY AUTO_INCREMENT,
  workspace_id INT NOT NULL REFERENCES workspace (id),
  table_name VARCHAR(200) NOT NULL,
  columns_from TEXT NOT NULL,
  other_name VARCHAR(200) NOT NULL,
  columns_to TEXT NOT NULL,
  decision VARCHAR(20) NOT NULL
);

CREATE TABLE upload (
  id CHAR(32) PRIMARY KEY,
  workspace_id INT NOT NULL REFERENCES workspace (id),
  file VARCHAR(300) NOT NULL,
  size BIGINT NOT NULL,
  replaces VARCHAR(200) NULL,
  created_at TIMESTAMP NOT NULL DEFAULT CURRENT_TIMESTAMP
);
