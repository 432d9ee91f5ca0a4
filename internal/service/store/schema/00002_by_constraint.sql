-- What the ledger promises holds by the database's own rules, whoever writes to it. Each statement can be run again:
-- the server keeps what one has done, also when the next one fails.
-- +goose NO TRANSACTION
-- +goose Up

-- A number is given once, and a record has one document in a batch. What has none says NULL, not '' or 0.
UPDATE documents SET number = NULL WHERE number = '';
UPDATE documents SET batch_id = NULL WHERE batch_id = 0;
ALTER TABLE documents
  DROP INDEX IF EXISTS idx_documents_number,
  DROP INDEX IF EXISTS idx_documents_batch_id,
  ADD UNIQUE KEY IF NOT EXISTS documents_number (number),
  ADD UNIQUE KEY IF NOT EXISTS documents_turn (batch_id, record);

-- A row of the ledger, an item, a link and a delivery name a document that exists.
UPDATE batch_items SET document_id = NULL WHERE document_id = 0;
ALTER TABLE batch_items DROP FOREIGN KEY IF EXISTS batch_items_document;
ALTER TABLE batch_items ADD CONSTRAINT batch_items_document FOREIGN KEY (document_id) REFERENCES documents (id);
ALTER TABLE ledger DROP FOREIGN KEY IF EXISTS ledger_document;
ALTER TABLE ledger
  MODIFY kind varchar(20) NOT NULL,
  MODIFY document_id bigint unsigned NOT NULL,
  ADD UNIQUE KEY IF NOT EXISTS ledger_turn (document_id, kind),
  ADD CONSTRAINT ledger_document FOREIGN KEY (document_id) REFERENCES documents (id);
ALTER TABLE shares DROP FOREIGN KEY IF EXISTS shares_document;
ALTER TABLE shares ADD CONSTRAINT shares_document FOREIGN KEY (document_id) REFERENCES documents (id);
ALTER TABLE deliveries DROP FOREIGN KEY IF EXISTS deliveries_document;
ALTER TABLE deliveries ADD CONSTRAINT deliveries_document FOREIGN KEY (document_id) REFERENCES documents (id);

-- Rows of the ledger stay as they were written.
CREATE TRIGGER IF NOT EXISTS ledger_unchanged BEFORE UPDATE ON ledger FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'rows of the ledger are never changed';
CREATE TRIGGER IF NOT EXISTS ledger_complete BEFORE DELETE ON ledger FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'rows of the ledger are never deleted';
