-- What was issued since a time is counted.
-- +goose NO TRANSACTION
-- +goose Up

ALTER TABLE documents ADD KEY IF NOT EXISTS idx_documents_issued_at (issued_at);
