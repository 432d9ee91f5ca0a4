-- Webhooks that are told of what happens: their messages wait, and are tried, as deliveries do.
-- +goose NO TRANSACTION
-- +goose Up

CREATE TABLE IF NOT EXISTS hooks (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  address varchar(500) NOT NULL,
  events varchar(300) NOT NULL,
  paused boolean NOT NULL,
  author varchar(190) NOT NULL,
  revision bigint NOT NULL,
  created_at datetime(3) NOT NULL,
  PRIMARY KEY (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

ALTER TABLE deliveries
  ADD COLUMN IF NOT EXISTS event varchar(40) NOT NULL DEFAULT '',
  ADD COLUMN IF NOT EXISTS hook_id bigint unsigned,
  ADD COLUMN IF NOT EXISTS about bigint unsigned NOT NULL DEFAULT 0,
  ADD KEY IF NOT EXISTS idx_deliveries_hook_id (hook_id);
