#!/bin/sh
# Builds packages into dist/: build.sh [deb|all]. “deb” is the Debian package for this machine alone; “all” (the
# default) is everything. Two builds of one commit give the same bytes.
set -eu
cd "$(dirname "$0")/.."
what=${1:-all}
out=dist
nfpm="go run github.com/goreleaser/nfpm/v2/cmd/nfpm@v2.47.0"
sbom="go run github.com/CycloneDX/cyclonedx-gomod/cmd/cyclonedx-gomod@v1.10.0"

SOURCE_DATE_EPOCH=$(git log -1 --format=%ct)
VERSION=$(git log -1 --format=%cd --date=format:%Y.%m.%d)
from=$(git log -1 --abbrev=12 --format='%h of %cs')
export SOURCE_DATE_EPOCH VERSION
rm -rf "$out"
mkdir -p "$out/stage"

# binary OS ARCH FILE
binary() {
  CGO_ENABLED=0 GOOS=$1 GOARCH=$2 go build -trimpath -buildvcs=false -ldflags "-s -w -buildid= -X 'oliveledger/internal/cli.builtFrom=$from'" -o "$3" ./cmd/olive
}

# package KIND ARCH: of the binary for that architecture
package() {
  ARCH=$2 $nfpm package --config packages/nfpm.yaml --packager "$1" --target "$out/"
}

go run ./packages/manual "$out/stage"
gzip -9n "$out"/stage/man/*.1
host=$(go env GOARCH)
if [ "$what" = deb ]; then
  binary linux "$host" "$out/stage/olive-$host"
  package deb "$host"
  exit 0
fi
for arch in amd64 arm64; do
  binary linux $arch "$out/stage/olive-$arch"
  package deb $arch
  package rpm $arch
  cp "$out/stage/olive-$arch" "$out/olive-$VERSION-linux-$arch"
  binary darwin $arch "$out/olive-$VERSION-macos-$arch"
done
binary windows amd64 "$out/olive-$VERSION-windows-amd64.exe"
$sbom mod -json -licenses -noserial -output "$out/olive-$VERSION.cdx.json"
(cd "$out" && find . -maxdepth 1 -type f ! -name SHA256SUMS -printf '%P\n' | LC_ALL=C sort | xargs sha256sum > SHA256SUMS)
rm -rf "$out/stage"
ls -l "$out"
