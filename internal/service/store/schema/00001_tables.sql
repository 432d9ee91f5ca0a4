-- The tables as they were before they had versions: a database from then is taken over as it is.
-- +goose NO TRANSACTION
-- +goose Up

CREATE TABLE IF NOT EXISTS people (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  email varchar(190),
  name varchar(190),
  role varchar(20) DEFAULT 'keeper',
  password varchar(255),
  disabled boolean,
  revision bigint,
  created_at datetime(3),
  PRIMARY KEY (id),
  UNIQUE KEY idx_people_email (email)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS sessions (
  token varchar(64) NOT NULL,
  person_id bigint unsigned,
  agent varchar(200),
  address varchar(60),
  expires_at datetime(3),
  created_at datetime(3),
  PRIMARY KEY (token),
  KEY idx_sessions_person_id (person_id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS `keys` (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  name varchar(190),
  hash varchar(64),
  scopes varchar(190) DEFAULT 'read render design records issue approve send keep',
  templates varchar(2000),
  expires_at datetime(3),
  revoked boolean,
  author varchar(190),
  person_id bigint unsigned,
  created_at datetime(3),
  PRIMARY KEY (id),
  UNIQUE KEY idx_keys_hash (hash)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS templates (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  name varchar(120),
  title varchar(255),
  latest bigint,
  updated_at datetime(3),
  PRIMARY KEY (id),
  UNIQUE KEY idx_templates_name (name)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS versions (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  template_id bigint unsigned,
  number bigint,
  note varchar(255),
  author varchar(190),
  created_at datetime(3),
  PRIMARY KEY (id),
  UNIQUE KEY template_number (template_id,number)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS version_files (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  version_id bigint unsigned,
  path varchar(255),
  content longblob,
  PRIMARY KEY (id),
  KEY idx_version_files_version_id (version_id),
  CONSTRAINT fk_versions_files FOREIGN KEY (version_id) REFERENCES versions (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS drafts (
  template_id bigint unsigned NOT NULL,
  files longblob,
  author varchar(190),
  revision bigint,
  updated_at datetime(3),
  PRIMARY KEY (template_id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS record_sets (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  name varchar(190),
  count bigint,
  author varchar(190),
  created_at datetime(3),
  PRIMARY KEY (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS records (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  record_set_id bigint unsigned,
  number bigint,
  label varchar(255),
  data longtext,
  revision bigint DEFAULT 1,
  PRIMARY KEY (id),
  UNIQUE KEY set_number (record_set_id,number)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS series (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  name varchar(100),
  pattern varchar(100),
  next bigint,
  year bigint,
  approval boolean,
  revision bigint,
  created_at datetime(3),
  PRIMARY KEY (id),
  UNIQUE KEY idx_series_name (name)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS batches (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  template varchar(120),
  version bigint,
  record_set_id bigint unsigned,
  series varchar(100),
  drafts boolean,
  state varchar(20),
  priority bigint,
  total bigint,
  author varchar(190),
  person_id bigint unsigned,
  revision bigint,
  created_at datetime(3),
  ended_at datetime(3),
  PRIMARY KEY (id),
  KEY idx_batches_record_set_id (record_set_id),
  KEY idx_batches_state (state)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS documents (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  number varchar(100),
  series varchar(100),
  name varchar(255),
  title varchar(255),
  state varchar(20) DEFAULT 'issued',
  template varchar(120),
  version bigint,
  record_set_id bigint unsigned,
  record bigint,
  batch_id bigint unsigned,
  data longtext,
  record_sha256 varchar(64),
  pages bigint,
  bytes bigint,
  sha256 varchar(64),
  verify varchar(300),
  code varchar(64),
  findings mediumtext,
  shelf bigint,
  author varchar(190),
  person_id bigint unsigned,
  approver varchar(190),
  reason varchar(500),
  revision bigint DEFAULT 1,
  issued_at datetime(3),
  created_at datetime(3),
  PRIMARY KEY (id),
  KEY idx_documents_number (number),
  KEY idx_documents_name (name),
  KEY idx_documents_state (state),
  KEY idx_documents_template (template),
  KEY idx_documents_record_set_id (record_set_id),
  KEY idx_documents_batch_id (batch_id),
  KEY idx_documents_code (code),
  KEY idx_documents_created_at (created_at)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS batch_items (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  batch_id bigint unsigned,
  record bigint,
  state varchar(20),
  tries bigint,
  losses bigint,
  begun boolean,
  worker varchar(60),
  not_before datetime(3),
  error varchar(2000),
  document_id bigint unsigned,
  PRIMARY KEY (id),
  UNIQUE KEY batch_record (batch_id,record),
  KEY next_turn (batch_id,state,record),
  KEY idx_batch_items_document_id (document_id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS ledger (
  id bigint unsigned NOT NULL,
  kind varchar(20),
  document_id bigint unsigned,
  number varchar(100),
  name varchar(255),
  template varchar(120),
  version bigint,
  record_sha256 varchar(64),
  sha256 varchar(64),
  pages bigint,
  reason varchar(500),
  who varchar(190),
  at varchar(40),
  previous varchar(64),
  checksum varchar(64),
  PRIMARY KEY (id),
  KEY idx_ledger_document_id (document_id),
  KEY idx_ledger_number (number)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS ledger_head (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  count bigint unsigned,
  checksum varchar(64),
  PRIMARY KEY (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS shares (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  hash varchar(64),
  document_id bigint unsigned,
  download boolean,
  most bigint,
  uses bigint,
  expires_at datetime(3),
  revoked boolean,
  author varchar(190),
  created_at datetime(3),
  PRIMARY KEY (id),
  UNIQUE KEY idx_shares_hash (hash),
  KEY idx_shares_document_id (document_id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS deliveries (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  document_id bigint unsigned,
  kind varchar(20),
  address varchar(500),
  subject varchar(500),
  body text,
  state varchar(20),
  tries bigint,
  not_before datetime(3),
  error varchar(1000),
  author varchar(190),
  created_at datetime(3),
  sent_at datetime(3),
  PRIMARY KEY (id),
  KEY idx_deliveries_document_id (document_id),
  KEY idx_deliveries_state (state)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS delivery_tries (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  delivery_id bigint unsigned,
  at datetime(3),
  took bigint,
  error varchar(1000),
  PRIMARY KEY (id),
  KEY idx_delivery_tries_delivery_id (delivery_id),
  CONSTRAINT fk_deliveries_history FOREIGN KEY (delivery_id) REFERENCES deliveries (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS events (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  at datetime(3),
  who varchar(190),
  action varchar(60),
  kind varchar(40),
  ref varchar(190),
  detail varchar(500),
  request varchar(60),
  PRIMARY KEY (id),
  KEY idx_events_at (at),
  KEY idx_events_who (who),
  KEY thing (kind,ref)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS answers (
  `key` varchar(64) NOT NULL,
  body varchar(64),
  status bigint,
  type varchar(100),
  answer longblob,
  created_at datetime(3),
  PRIMARY KEY (`key`),
  KEY idx_answers_created_at (created_at)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS shareds (
  name varchar(60) NOT NULL,
  value varchar(500),
  PRIMARY KEY (name)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

CREATE TABLE IF NOT EXISTS shelf_fonts (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  file varchar(190),
  family varchar(190),
  least_bold bigint,
  most_bold bigint,
  italic boolean,
  bytes bigint,
  sha256 varchar(64),
  author varchar(190),
  added bigint,
  withdrawn bigint,
  created_at datetime(3),
  PRIMARY KEY (id),
  KEY idx_shelf_fonts_family (family),
  KEY idx_shelf_fonts_added (added),
  KEY idx_shelf_fonts_withdrawn (withdrawn)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;
