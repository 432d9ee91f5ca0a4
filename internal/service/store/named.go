package store

// Named tells which stored bytes, given by their checksums, a document or a font names.
func (s *Store) Named(sums []string) (map[string]bool, error) {
	var found []string
	err := s.db.Raw("SELECT sha256 FROM documents WHERE sha256 IN ? AND erased_at IS NULL UNION SELECT sha256 FROM shelf_fonts WHERE sha256 IN ? UNION SELECT l.sha256 FROM ledger l JOIN documents d ON d.id = l.document_id AND d.sha256 <> l.sha256 AND d.erased_at IS NULL WHERE l.sha256 IN ?", sums, sums, sums).Scan(&found).Error
	named := make(map[string]bool, len(found))
	for _, sum := range found {
		named[sum] = true
	}
	return named, err
}
