package store

import (
	"time"

	"gorm.io/gorm"
)

// Overview is what stands open, and what has come of late.
type Overview struct {
	Waiting          int64       `json:"waiting"`          // documents that wait to be approved
	Approved         int64       `json:"approved"`         // documents that are approved and wait to be issued
	FailedDeliveries int64       `json:"failedDeliveries"` // that are not tried any more by themselves
	Failed           []Delivery  `json:"failed"`           // the latest of these
	Batches          []Batch     `json:"batches"`          // under way, and those with failures that ended since
	Drafts           []OpenDraft `json:"drafts"`           // templates that are being edited, the latest first
	Days             []Day       `json:"days"`             // on which documents were issued since, in order
	Recent           []Document  `json:"recent"`           // documents, the newest first
	Templates        int64       `json:"templates"`        // how many there are
	RecordSets       int64       `json:"recordSets"`       // how many there are
}

// OpenDraft is a template that is being edited.
type OpenDraft struct {
	Name    string    `json:"name"`    // of the template
	Title   string    `json:"title"`   // of the template
	Author  string    `json:"author"`  // who changes it
	Updated time.Time `json:"updated"` // when it was changed last
}

// Day tells how many documents were issued on a day.
type Day struct {
	Day       string `json:"day"`       // 2026-05-31, in UTC
	Documents int    `json:"documents"` // that were issued on this day
}

// What an overview lists at most of each kind.
const (
	mostFailed  = 8
	mostBatches = 8
	mostDrafts  = 8
	mostRecent  = 8
)

// Overview looks at all, and at what was issued or ended since a time.
func (s *Store) Overview(since time.Time) (o Overview, err error) {
	o = Overview{Failed: []Delivery{}, Batches: []Batch{}, Drafts: []OpenDraft{}, Days: []Day{}, Recent: []Document{}}
	failed := s.db.Model(&BatchItem{}).Select("1").Where("batch_items.batch_id = batches.id AND batch_items.state = ?", Failed)
	for _, q := range []*gorm.DB{
		s.db.Model(&Document{}).Where("state = ?", Drafted).Count(&o.Waiting),
		s.db.Model(&Document{}).Where("state = ?", Approved).Count(&o.Approved),
		s.db.Model(&Delivery{}).Where("state = ?", Failed).Count(&o.FailedDeliveries),
		s.db.Where("state = ?", Failed).Order("id DESC").Limit(mostFailed).Find(&o.Failed),
		s.db.Model(&Template{}).Count(&o.Templates),
		s.db.Model(&RecordSet{}).Count(&o.RecordSets),
		s.db.Where("state IN ?", []string{Running, Paused}).Or("ended_at >= ? AND EXISTS (?)", since, failed).Order("id DESC").Limit(mostBatches).Find(&o.Batches),
		s.db.Model(&Draft{}).Select("templates.name, templates.title, drafts.author, drafts.updated_at AS updated").
			Joins("JOIN templates ON templates.id = drafts.template_id").Order("drafts.updated_at DESC").Limit(mostDrafts).Scan(&o.Drafts),
		s.db.Model(&Document{}).Select("DATE_FORMAT(issued_at, '%Y-%m-%d') AS day, COUNT(*) AS documents").Where("issued_at >= ?", since).
			Group("day").Order("day").Scan(&o.Days),
		s.db.Order("id DESC").Limit(mostRecent).Find(&o.Recent),
	} {
		if q.Error != nil {
			return o, q.Error
		}
	}
	for i := range o.Batches {
		if err := s.count(&o.Batches[i]); err != nil {
			return o, err
		}
	}
	return o, nil
}
