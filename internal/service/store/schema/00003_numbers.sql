-- Numbers are drawn for a group of items when it is claimed, and stand here until their documents are kept.
-- +goose NO TRANSACTION
-- +goose Up

-- A number without an item is free: its document failed, and the next one gets it.
CREATE TABLE IF NOT EXISTS drawn_numbers (
  number varchar(100) NOT NULL,
  series varchar(100) NOT NULL,
  year int NOT NULL,
  place bigint NOT NULL,
  item_id bigint unsigned,
  at datetime(3) NOT NULL,
  PRIMARY KEY (number),
  UNIQUE KEY drawn_numbers_item (item_id),
  KEY drawn_numbers_free (series, year, item_id, place),
  CONSTRAINT drawn_numbers_item FOREIGN KEY (item_id) REFERENCES batch_items (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

-- Numbers that were passed over on purpose, when the next one of a series was set by hand.
CREATE TABLE IF NOT EXISTS passed_numbers (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  series varchar(100) NOT NULL,
  year int NOT NULL,
  first bigint NOT NULL,
  last bigint NOT NULL,
  at datetime(3) NOT NULL,
  PRIMARY KEY (id),
  KEY passed_numbers_series (series, year)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;

ALTER TABLE documents ADD KEY IF NOT EXISTS documents_series (series);
