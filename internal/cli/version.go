package cli

import "runtime/debug"

// builtFrom is the commit that the Makefile builds from, with its day.
var builtFrom string

// version tells what the binary was built from: its commit and the day of it.
func version() string {
	if builtFrom != "" {
		return builtFrom
	}
	info, ok := debug.ReadBuildInfo()
	if !ok {
		return "unknown"
	}
	facts := map[string]string{}
	for _, s := range info.Settings {
		facts[s.Key] = s.Value
	}
	commit, day := facts["vcs.revision"], facts["vcs.time"]
	if len(commit) < 12 || len(day) < 10 {
		return "built from no commit"
	}
	text := commit[:12] + " of " + day[:10]
	if facts["vcs.modified"] == "true" {
		text += ", changed"
	}
	return text
}
