-- How long documents are kept, and which must not be erased.
-- +goose NO TRANSACTION
-- +goose Up

ALTER TABLE documents
  ADD COLUMN IF NOT EXISTS keep_until datetime(3),
  ADD COLUMN IF NOT EXISTS hold varchar(500) NOT NULL DEFAULT '',
  ADD COLUMN IF NOT EXISTS erased_at datetime(3),
  ADD KEY IF NOT EXISTS documents_keep_until (keep_until);
