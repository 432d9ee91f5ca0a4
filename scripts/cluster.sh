#!/usr/bin/env bash
# A cluster of MariaDB nodes on this machine, for tests and to try things out.
#
#   scripts/cluster.sh start DIR [NODES]   sets the cluster up in DIR and starts it; 3 nodes
#   scripts/cluster.sh node DIR N          starts node N again after it has ended
#   scripts/cluster.sh stop DIR            ends all nodes
#
# Node N answers on the socket DIR/N/socket and on port BASE + 10 N of loopback; BASE is 24000, or what
# OLIVE_CLUSTER_PORT says. Needs Debian's galera-4, mariadb-server, rsync, lsof and socat.
set -euo pipefail

act=${1:?start, node or stop}
dir=$(mkdir -p "${2:?a folder}" && cd "$2" && pwd)
base=${OLIVE_CLUSTER_PORT:-24000}
library=$(ls /usr/lib/galera/libgalera_smm.so /usr/lib/*/galera/libgalera_smm.so 2>/dev/null | head -1 || true)
[ -n "$library" ] || { echo "Debian's galera-4 is not installed" >&2; exit 1; }

# a node hands its data to another one by rsync, which refuses to do so as root
run=()
if [ "$(id -u)" = 0 ]; then
	run=(setpriv --reuid=mysql --regid=mysql --clear-groups --)
fi

nodes() { cat "$dir/nodes"; }

members() {
	local list=()
	for n in $(seq "$(nodes)"); do list+=("127.0.0.1:$((base + 10 * n + 1))"); done
	(IFS=,; echo "${list[*]}")
}

# begin N ADDRESSES: empty addresses begin a new cluster
begin() {
	local n=$1 at=$((base + 10 * $1))
	"${run[@]}" mariadbd --no-defaults --datadir="$dir/$n/data" --socket="$dir/$n/socket" --pid-file="$dir/$n/pid" \
		--log-error="$dir/$n/server.log" --bind-address=127.0.0.1 --port="$at" --tmpdir="$dir/$n" \
		--character-set-server=utf8mb4 --max-allowed-packet=256M --innodb-buffer-pool-size=96M \
		--log-bin-trust-function-creators=1 --binlog-format=ROW --default-storage-engine=InnoDB --innodb-autoinc-lock-mode=2 --innodb-flush-log-at-trx-commit=2 \
		--wsrep-on=ON --wsrep-provider="$library" --wsrep-cluster-name=olive --wsrep-cluster-address="gcomm://$2" \
		--wsrep-node-name="node$n" --wsrep-node-address=127.0.0.1 --wsrep-sst-method=rsync \
		--wsrep-sst-receive-address="127.0.0.1:$((at + 3))" \
		--wsrep-provider-options="base_port=$((at + 1));ist.recv_addr=127.0.0.1:$((at + 2));gcache.size=64M" \
		>"$dir/$n/out" 2>&1 &
	disown
}

# answers N: waits until a node takes part in the cluster
answers() {
	for _ in $(seq 600); do
		state=$(mariadb --no-defaults -N --socket="$dir/$1/socket" -uroot -e "SHOW STATUS LIKE 'wsrep_local_state'" 2>/dev/null | cut -f2 || true)
		[ "$state" = 4 ] && return 0
		sleep 0.2
	done
	echo "node $1 does not answer; see $dir/$1/server.log" >&2
	return 1
}

case $act in
start)
	echo "${3:-3}" >"$dir/nodes"
	for n in $(seq "$(nodes)"); do
		mkdir -p "$dir/$n"
		if [ ! -d "$dir/$n/data/mysql" ]; then
			mkdir -p "$dir/$n/data"
			mariadb-install-db --no-defaults --datadir="$dir/$n/data" --auth-root-authentication-method=normal --skip-test-db >"$dir/$n/install.log" 2>&1
		fi
		[ "$(id -u)" = 0 ] && chown -R mysql:mysql "$dir/$n"
	done
	chmod 755 "$dir"
	begin 1 ""
	answers 1
	# so that services reach each node over the network
	mariadb --no-defaults --socket="$dir/1/socket" -uroot -e "CREATE DATABASE IF NOT EXISTS olive_ledger CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci; CREATE USER IF NOT EXISTS olive@'127.0.0.1' IDENTIFIED BY 'olive'; GRANT ALL ON olive_ledger.* TO olive@'127.0.0.1'"
	for n in $(seq 2 "$(nodes)"); do
		begin "$n" "$(members)"
		answers "$n"
	done
	for n in $(seq "$(nodes)"); do echo "olive:olive@tcp(127.0.0.1:$((base + 10 * n)))/olive_ledger"; done
	;;
node)
	begin "${3:?the number of a node}" "$(members)"
	answers "$3"
	;;
stop)
	pkill -TERM -f -- "--datadir=$dir/[0-9]+/data" || true
	for _ in $(seq 50); do
		pgrep -f -- "--datadir=$dir/[0-9]+/data" >/dev/null || exit 0
		sleep 0.2
	done
	pkill -KILL -f -- "--datadir=$dir/[0-9]+/data" || true # one that waits for others in vain
	;;
*)
	echo "start, node or stop" >&2
	exit 2
	;;
esac
