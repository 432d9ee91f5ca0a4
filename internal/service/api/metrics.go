package api

import (
	"net/http"
	"strconv"
	"time"

	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"
)

// Metrics are counts and times for Prometheus.
type Metrics struct {
	registry   *prometheus.Registry
	requests   *prometheus.HistogramVec
	renderings prometheus.Histogram
	pages      prometheus.Counter
}

// NewMetrics starts counting. made gives how many documents the workers have
// made and how many failed.
func NewMetrics(made, failed func() float64) *Metrics {
	m := &Metrics{
		registry:   prometheus.NewRegistry(),
		requests:   prometheus.NewHistogramVec(prometheus.HistogramOpts{Name: "olive_request_seconds", Help: "Time that requests took.", Buckets: prometheus.DefBuckets}, []string{"method", "route", "status"}),
		renderings: prometheus.NewHistogram(prometheus.HistogramOpts{Name: "olive_rendering_seconds", Help: "Time that renderings at once took.", Buckets: []float64{.002, .005, .01, .02, .05, .1, .25, 1, 5, 30}}),
		pages:      prometheus.NewCounter(prometheus.CounterOpts{Name: "olive_pages_total", Help: "Pages set at once."}),
	}
	m.registry.MustRegister(m.requests, m.renderings, m.pages, collectors.NewGoCollector(), collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}),
		prometheus.NewCounterFunc(prometheus.CounterOpts{Name: "olive_batch_documents_total", Help: "Documents of batches that this process made."}, made),
		prometheus.NewCounterFunc(prometheus.CounterOpts{Name: "olive_batch_failures_total", Help: "Items of batches that failed in this process."}, failed))
	return m
}

// Handler serves the figures.
func (m *Metrics) Handler() http.Handler {
	return promhttp.HandlerFor(m.registry, promhttp.HandlerOpts{})
}

func (m *Metrics) request(method, route string, status int, took time.Duration) {
	m.requests.WithLabelValues(method, route, strconv.Itoa(status)).Observe(took.Seconds())
}

func (m *Metrics) rendering(pages int, took time.Duration) {
	m.renderings.Observe(took.Seconds())
	m.pages.Add(float64(pages))
}
