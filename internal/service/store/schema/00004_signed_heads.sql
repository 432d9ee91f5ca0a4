-- Heads of the ledger with signatures, whose key is kept elsewhere.
-- +goose NO TRANSACTION
-- +goose Up

CREATE TABLE IF NOT EXISTS signed_heads (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  entries bigint unsigned NOT NULL,
  checksum varchar(64) NOT NULL,
  at varchar(40) NOT NULL,
  `key` varchar(64) NOT NULL,
  signature varchar(120) NOT NULL,
  PRIMARY KEY (id),
  KEY signed_heads_entries (entries)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;
CREATE TRIGGER IF NOT EXISTS signed_heads_unchanged BEFORE UPDATE ON signed_heads FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'signed heads of the ledger are never changed';
CREATE TRIGGER IF NOT EXISTS signed_heads_complete BEFORE DELETE ON signed_heads FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'signed heads of the ledger are never deleted';
