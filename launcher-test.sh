#!/usr/bin/env bash
# What ./ordinator may be relied on for, tried on throw-away data folders. Nothing is built or started:
# where it would start something, something harmless stands in.
set -uo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")"
ROOT=$PWD
FOLDERS=$(mktemp -d)
trap 'rm -rf "$FOLDERS"' EXIT
passed=0 failed=0

check() { # what may be relied on, command ...
  local what=$1 out; shift
  if out=$( (set -e; "$@") 2>&1 ); then passed=$((passed + 1)); else failed=$((failed + 1)); printf 'NOT SO: %s\n%s\n' "$what" "$out"; fi
}

# the launcher's parts, for a data folder of its own
launcher() { # folder
  export ORDINATOR_DATA="$1"
  source "$ROOT/ordinator"
  set +e
}
says() { # text, command that fails ...
  local text=$1 out code=0; shift
  out=$("$@" 2>&1) || code=$?
  [ "$code" != 0 ] || { echo "it did not fail: $out"; return 1; }
  [[ "$out" == *"$text"* ]] || { echo "it said: $out"; return 1; }
}

relative_folder() {
  mkdir -p "$FOLDERS/here" && cd "$FOLDERS/here"
  launcher data
  [ "$DATA" = "$FOLDERS/here/data" ]
}
check "a relative data folder is taken from where the caller stands" relative_folder

kinds() {
  launcher "$FOLDERS/kinds"
  claim demo && claim demo || return 1
  says "holds the demo world" claim own || return 1
  mkdir "$FOLDERS/own" && DATA="$FOLDERS/own" && claim own && says "holds your own data" claim demo
}
check "demo data and own data don't share a folder" kinds

strangers_folder() {
  launcher "$FOLDERS/letters"
  mkdir "$DATA" && echo dear >"$DATA/letter.txt"
  says "not ours" claim demo && says "it is not deleted" reset --yes && [ -e "$DATA/letter.txt" ]
}
check "a folder that is not ours is neither used nor deleted" strangers_folder

reset_ours() { launcher "$FOLDERS/with space"; claim demo && reset --yes && [ ! -e "$DATA" ]; }
check "reset deletes our folder, with a space in its path" reset_ours

one_at_a_time() {
  launcher "$FOLDERS/lock"
  claim demo && only_one
  (exec 9>&-; says "another ./ordinator is at work" only_one) || return 1
  only_one_no_more && (only_one)
}
check "one command at a time works in a data folder" one_at_a_time

taken_port() {
  launcher "$FOLDERS/ports"; claim demo
  is_taken() { [ "$1" = "$GUILD_PORT" ]; }
  says "set ORDINATOR_GUILD_PORT" check_ports demo && check_ports own
}
check "a taken port is named with the variable that changes it" taken_port

old_node() {
  launcher "$FOLDERS/node"
  npm() { :; }
  node() { echo v20.18.1; }; has_node && return 1
  node() { echo v20.19.0; }; has_node || return 1
  node() { echo v24.1.0; }; has_node
}
check "an older Node.js is not taken for a good one" old_node

moments() {
  launcher "$FOLDERS/moments"
  check_moment 2026-12-01T09:40:00Z && says "is no moment" check_moment yesterday && says "is no moment" check_moment 2026-13-01T09:40:00Z
}
check "a moment that is none is refused" moments

# a process that is ours by its command line, and ends when it is told to
something() { launch "$1" bash -c 'trap "exit 0" TERM; while :; do sleep 0.1; done' "$DATA"; }

ends_what_it_started() {
  launcher "$FOLDERS/started"; claim demo
  ( beware; something db; something server; exit 1 )
  ! pid_of db && ! pid_of server
}
check "what a failed start has started ends with it" ends_what_it_started

killed_in_the_middle() {
  launcher "$FOLDERS/killed"; claim demo
  ( beware; something db; attended sleep 60 ) & local starter=$!
  for _ in $(seq 1 100); do pid_of db >/dev/null && break; sleep 0.05; done
  kill -TERM "$starter"; wait "$starter"
  [ $? = 143 ] && ! pid_of db
}
check "a kill in the middle of a long step ends all that was started" killed_in_the_middle

does_not_end() {
  launcher "$FOLDERS/stubborn"; claim demo
  launch db bash -c 'trap "" TERM; while :; do sleep 0.1; done' "$DATA"
  local pid; pid=$(pid_of db)
  PATIENCE=5
  says "does not end (pid $pid)" end db && [ "$(pid_of db)" = "$pid" ]
  local kept=$?
  kill -9 "$pid"
  return $kept
}
check "a process that does not end is told and not forgotten" does_not_end

# the seed and the database, as the launcher speaks to them
world_of() { # folder, what the seed does
  launcher "$1"; claim demo
  sql() { echo "$*" >>"$DATA/sql"; }
  start_standins() { :; }
  learn_to_start() { :; }
  seed=$2; APP=(bash -c "$seed" seed) OPTIONS=()
}

whole_world() {
  world_of "$FOLDERS/whole" 'exit 0'
  make_world "" && [ -e "$DATA/seeded" ] && [ ! -e "$DATA/seeding" ] && tail -1 "$DATA/sql" | grep -q 'commit = 1'
}
check "a world is marked whole last, and commits are durable again" whole_world

half_world() {
  world_of "$FOLDERS/half" 'exit 7'
  says "could not be made" make_world "" && [ ! -e "$DATA/seeded" ] && tail -1 "$DATA/sql" | grep -q 'commit = 1' || return 1
  APP=(bash -c 'exit 0' seed)
  local said; said=$(make_world "")
  [[ "$said" == *"left half-made; it is made anew"* ]] && [ -e "$DATA/seeded" ]
}
check "a half-made world is said to be so and made anew, and commits are durable again" half_world

learned_once() {
  launcher "$FOLDERS/learned"; mkdir -p "$DATA"; AOT="$DATA/start.aot"
  echo whole >"$AOT.new"; echo "AOTCache creation is complete: $AOT.new 6 bytes" >"$DATA/learner.log"
  finish_learning; [ -e "$AOT" ] && [ ! -e "$AOT.new" ] || return 1
  rm "$AOT"; : >"$DATA/learner.log"; echo half >"$AOT.new"
  finish_learning; [ ! -e "$AOT" ] && [ ! -e "$AOT.new" ]
}
check "what was learned of starting is used once whole, and thrown away if half" learned_once

printf 'launcher: %d passed, %d failed\n' "$passed" "$failed"
[ "$failed" = 0 ]
