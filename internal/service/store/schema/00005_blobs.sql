-- Stored bytes are looked for by what names them.
-- +goose NO TRANSACTION
-- +goose Up

ALTER TABLE documents ADD KEY IF NOT EXISTS documents_sha256 (sha256);
ALTER TABLE shelf_fonts ADD KEY IF NOT EXISTS shelf_fonts_sha256 (sha256);
