-- Documents are found by the words in them.
-- +goose NO TRANSACTION
-- +goose Up

ALTER TABLE documents ADD FULLTEXT KEY IF NOT EXISTS documents_words (number, name, title, data);
