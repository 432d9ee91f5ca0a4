-- Those outside who have seen a signed head of the ledger.
-- +goose NO TRANSACTION
-- +goose Up

CREATE TABLE IF NOT EXISTS head_witnesses (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  head_id bigint unsigned NOT NULL,
  kind varchar(20) NOT NULL,
  who varchar(300) NOT NULL,
  at datetime(3) NOT NULL,
  token mediumblob,
  PRIMARY KEY (id),
  UNIQUE KEY head_witnesses_once (head_id, kind),
  CONSTRAINT fk_head_witnesses_head FOREIGN KEY (head_id) REFERENCES signed_heads (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;
CREATE TRIGGER IF NOT EXISTS head_witnesses_unchanged BEFORE UPDATE ON head_witnesses FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'what witnesses said is never changed';
CREATE TRIGGER IF NOT EXISTS head_witnesses_complete BEFORE DELETE ON head_witnesses FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'what witnesses said is never deleted';
