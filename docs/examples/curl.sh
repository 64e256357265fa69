#!/bin/sh
# The API by curl: a study is made, filled, read, and taken away. Usage: sh docs/examples/curl.sh http://127.0.0.1:4680
set -eu
api="${1:-http://127.0.0.1:4680}/api/v1"
study=$(cat /proc/sys/kernel/random/uuid)
item=$(cat /proc/sys/kernel/random/uuid)
send() { curl --fail-with-body --silent --show-error --header 'Content-Type: application/json' "$@"; }

# Everything has an id that you make, so that what is sent twice is made once.
send --data "{\"id\":\"$study\",\"title\":\"From a script\",\"question\":\"\",\"rounds\":3,\"seed\":1}" "$api/studies"
echo
send --data "{\"id\":\"$item\",\"name\":\"Ama\",\"code\":\"A\",\"mark\":0,\"role\":\"candidate\",\"class\":\"\",\"attributes\":[],\"position\":1}" \
  "$api/studies/$study/items"
echo

# An edit names the version that it changes.
send --request PATCH --data '{"version":1,"name":"Ama 2"}' "$api/studies/$study/items/$item"
echo

# What is wrong is said with its place; --fail-with-body shows it.
send --data '{"id":"no id"}' "$api/studies/$study/items" || echo " (refused, as it should be)"

curl --silent "$api/studies/$study/document"
curl --silent "$api/studies/$study/readings.csv?layout=long"
curl --silent --output /dev/null --write-out 'package: %{size_download} bytes\n' "$api/studies/$study/export.zip"
send --request DELETE "$api/studies/$study?version=1"
echo
