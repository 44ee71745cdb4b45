# Shared by bin/start and bin/test: packages, builds, and the private servers. Sourced, not run.
# Every function says in words what it could not do, and exits.

ROOT="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
# Data, logs and what is running; another folder where ANVIL_VAR says so. What is installed and built is stamped beside the code.
VAR="${ANVIL_VAR:-$ROOT/var}"
STAMPS="$ROOT/var"
# How every process that computes runs; without register allocation, which computes wrongly in PHP 8.2 (docs/decisions/0010).
read -ra JIT < "$ROOT/bin/jit.flags"

say() { printf '%s\n' "$*"; }
die() { printf '%s\n' "$*" >&2; exit 1; }

# Installs the Debian packages that are missing among those named.
need_packages() {
    local missing=() name
    for name in "$@"; do
        dpkg-query -W -f='${Status}' "$name" 2>/dev/null | grep -q 'install ok installed' || missing+=("$name")
    done
    [ ${#missing[@]} -eq 0 ] && return 0
    local run=()
    if [ "$(id -u)" -ne 0 ]; then
        if command -v sudo >/dev/null && sudo -n true 2>/dev/null; then
            run=(sudo)
        else
            die "These Debian packages are missing, and only root can install them. Run this once, then start again:
  sudo apt-get update && sudo apt-get install --no-install-recommends -y ${missing[*]}"
        fi
    fi
    say "Installing Debian packages: ${missing[*]}"
    mkdir -p "$VAR/log" "$VAR/deb/partial"
    {
        "${run[@]}" apt-get -o DPkg::Lock::Timeout=300 update
        # An archive folder of our own: a fresh image's clean-up can delete the usual one under a running install.
        "${run[@]}" env DEBIAN_FRONTEND=noninteractive apt-get -o Dir::Cache::archives="$VAR/deb" -o DPkg::Lock::Timeout=300 -o APT::Sandbox::User=root install -y --no-install-recommends "${missing[@]}" ||
            "${run[@]}" env DEBIAN_FRONTEND=noninteractive apt-get -o Dir::Cache::archives="$VAR/deb" -o DPkg::Lock::Timeout=300 -o APT::Sandbox::User=root --fix-broken install -y
    } >"$VAR/log/apt.log" 2>&1 || die "The Debian packages could not be installed; the end of $VAR/log/apt.log:
$(tail -n 5 "$VAR/log/apt.log")"
    rm -rf "$VAR/deb"
}

APP_PACKAGES=(php8.2-cli php8.2-fpm php8.2-mysql php8.2-curl php8.2-zip php8.2-intl php8.2-mbstring php8.2-xml php8.2-opcache php8.2-imagick mariadb-server nginx)
WORKER_PACKAGES=(php8.2-cli php8.2-mysql php8.2-curl php8.2-zip php8.2-intl php8.2-mbstring php8.2-xml php8.2-opcache php8.2-imagick)
TEST_PACKAGES=(chromium chromium-driver assimp-utils assimp-testmodels python3-scipy python3-jellyfish python3-skimage python3-shapely pngcheck)

# Composer packages at the committed versions; what differs from the committed list is named.
need_composer() {
    mkdir -p "$STAMPS"
    command -v composer >/dev/null || die "Composer is missing; install it (Debian: apt-get install composer)."
    local stamp="$STAMPS/stamp.composer" now
    now="$(cat "$ROOT/composer.json" "$ROOT/core/composer.json" | sha256sum)"
    if [ ! -f "$ROOT/vendor/autoload.php" ] || [ "$(cat "$stamp" 2>/dev/null)" != "$now" ]; then
        say "Installing Composer packages"
        mkdir -p "$VAR/log"
        (cd "$ROOT" && COMPOSER_ALLOW_SUPERUSER=1 composer update --no-interaction --no-progress) >"$VAR/log/composer.log" 2>&1 ||
            die "Composer failed; the end of $VAR/log/composer.log:
$(tail -n 8 "$VAR/log/composer.log")"
        chmod -R a+rX "$ROOT/vendor"
        printf '%s' "$now" >"$stamp"
    fi
    local differs
    differs="$(php "$ROOT/bin/list-packages.php" | diff "$ROOT/composer.packages.txt" - | grep '^[<>]' || true)"
    [ -z "$differs" ] || say "Warning: these PHP packages differ from the committed list (< committed, > installed):
$differs"
}

# npm packages at the committed versions.
need_npm() {
    command -v npm >/dev/null || die "Node.js with npm is missing; install it (Debian: apt-get install nodejs npm)."
    local stamp="$STAMPS/stamp.npm" now
    now="$(sha256sum <"$ROOT/package-lock.json")"
    if [ ! -d "$ROOT/node_modules" ] || [ "$(cat "$stamp" 2>/dev/null)" != "$now" ]; then
        say "Installing npm packages"
        mkdir -p "$VAR/log"
        (cd "$ROOT" && npm ci --no-audit --no-fund) >"$VAR/log/npm.log" 2>&1 || die "npm failed; the end of $VAR/log/npm.log:
$(tail -n 8 "$VAR/log/npm.log")"
        printf '%s' "$now" >"$stamp"
    fi
}

# The front end, built when its sources changed.
need_build() {
    local stamp="$STAMPS/stamp.build" now
    now="$(cd "$ROOT" && find resources vite.config.ts tsconfig.json package-lock.json -type f -print0 | sort -z | xargs -0 cat | sha256sum)"
    if [ ! -f "$ROOT/public/build/manifest.json" ] || [ "$(cat "$stamp" 2>/dev/null)" != "$now" ]; then
        say "Building the front end"
        (cd "$ROOT" && npm run --silent build) >"$VAR/log/build.log" 2>&1 || die "The front end could not be built; the end of $VAR/log/build.log:
$(tail -n 15 "$VAR/log/build.log")"
        printf '%s' "$now" >"$stamp"
    fi
}

port_taken() { (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

free_port() {
    local port="$1"
    while port_taken "$port"; do port=$((port + 1)); done
    printf '%s' "$port"
}

# hold_port BASE: a free port in PORT, kept for as long as this shell and what it starts live: two runs begun together do not choose one.
hold_port() {
    local folder lock
    folder="${TMPDIR:-/tmp}/anvil-ports.$(id -u)"
    mkdir -m 700 "$folder" 2>/dev/null
    [ -d "$folder" ] && [ ! -L "$folder" ] && [ -O "$folder" ] || die "$folder is not a folder of this user; remove it."
    PORT="$1"
    while :; do
        if ! port_taken "$PORT"; then
            exec {lock}>"$folder/$PORT"
            flock -n "$lock" && return
            exec {lock}>&-
        fi
        PORT=$((PORT + 1))
    done
}

# Who servers, workers and PHP run as. Root hands all of it to a user that owns nothing else; anybody else runs it as they are.
RUN_AS="$(id -un)"
RUN_GROUP="$(id -gn)"
AS=()
choose_user() {
    [ "$(id -u)" -eq 0 ] || return 0
    # Before packages are there, only whether it was chosen by an earlier start.
    if [ "${1:-}" = quiet ]; then
        id -u anvil >/dev/null 2>&1 && RUN_AS=anvil
        return 0
    fi
    RUN_AS=root
    if ! id -u anvil >/dev/null 2>&1; then
        useradd --system --no-create-home --home-dir /nonexistent --shell /usr/sbin/nologin anvil >>"$VAR/log/user.log" 2>&1 || die "The user anvil, that Yellow Anvil runs as when root starts it, could not be made; see $VAR/log/user.log"
    fi
    if setpriv --reuid=anvil --regid=anvil --clear-groups test -r "$ROOT/artisan" 2>/dev/null; then
        RUN_AS=anvil
        RUN_GROUP=anvil
        AS=(setpriv --reuid=anvil --regid=anvil --clear-groups --no-new-privs --inh-caps=-all)
    else
        say "Warning: $ROOT cannot be read by any user but root, so everything runs as root. Move the folder to where others may read it, such as /srv, and start again."
    fi
}

# As the one that servers run as.
as_user() { "${AS[@]+"${AS[@]}"}" "$@"; }

# A folder of that user's alone.
own_folder() {
    mkdir -p "$1"
    chown "$RUN_AS:$RUN_GROUP" "$1" 2>/dev/null
    chmod 700 "$1"
}

# born PID: the time since boot at which a process was started; nothing when there is none, or one that has ended and is not yet waited for.
# With its number it tells it from any later one.
born() { sed -n 's/^.*) //p' "/proc/$1/stat" 2>/dev/null | sed '/^Z/d' | cut -d' ' -f20; }

# is_ours FILE: whether the process that a pid file of ours names is still that one.
is_ours() {
    local pid start
    read -r pid start <"$1" 2>/dev/null || return 1
    case "$pid" in ''|*[!0-9]*) return 1 ;; esac
    [ -n "$start" ] && [ "$(born "$pid")" = "$start" ]
}

# runs_as_ours /proc/PID: whether a process is run by the user that servers run as, or by this one, as they are where only root can read the folder.
runs_as_ours() {
    local uid
    uid="$(sed -n 's/^Uid:[[:space:]]*\([0-9]*\).*/\1/p' "$1/status" 2>/dev/null)"
    [ -n "$uid" ] && { [ "$uid" = "$(id -u "$RUN_AS")" ] || [ "$uid" = "$(id -u)" ]; }
}

# end_orphans PID: what a server that is no more left in its session, such as nginx's own workers. No number is given to another
# process while a session bears it; and only processes of those names, run by the user that servers run as, are ended.
end_orphans() {
    local one words
    [ -z "$(born "$1")" ] || return 0
    for one in /proc/[0-9]*; do
        words="$(sed -n 's/^.*) //p' "$one/stat" 2>/dev/null | cut -d' ' -f4)"
        [ "$words" = "$1" ] || continue
        runs_as_ours "$one" || continue
        case "$(cat "$one/comm" 2>/dev/null)" in nginx|php*|mariadbd) kill -KILL "${one#/proc/}" 2>/dev/null ;; esac
    done
}

# end_strays: servers and workers on this data folder that no file of ours names, started just as bin/start was killed.
end_strays() {
    local one line
    for one in /proc/[0-9]*; do
        [ "${one#/proc/}" != $$ ] && runs_as_ours "$one" || continue
        line="$(tr '\0' ' ' <"$one/cmdline" 2>/dev/null)"
        case "$line" in
            *"$VAR/run/web/"*|*"--datadir=$VAR/mysql "*) kill -KILL "${one#/proc/}" 2>/dev/null; sleep 0.3; end_orphans "${one#/proc/}" ;;
            *"artisan queue:work"*|*"artisan anvil-keeper"*) tr '\0' '\n' <"$one/environ" 2>/dev/null | grep -qxF "ANVIL_STORAGE=$VAR/storage" && kill -KILL "${one#/proc/}" 2>/dev/null ;;
        esac
    done
}

# note FILE PID
note_pid() { printf '%s %s\n' "$2" "$(born "$2")" >"$1"; }

# Sockets lie in a folder of ours; where its path is too long for the system (about 100 characters), in one of a random name.
sockets_for() {
    local dir="$1"
    if [ "${#dir}" -gt 80 ]; then
        if [ ! -s "$1/short" ] || [ ! -O "$(cat "$1/short")" ]; then
            mkdir -p "$1"
            mktemp -d "${TMPDIR:-/tmp}/anvil-XXXXXXXXXX" >"$1/short"
        fi
        dir="$(cat "$1/short")"
    fi
    mkdir -p "$dir"
    printf '%s' "$dir"
}

# start_database FOLDER SOCKETS [PORT]: a private MariaDB that answers on its socket alone (and on a port of loopback, where one is named), to who has
# the password in var/. Sets DATABASE_PID.
start_database() {
    local folder="$1" sockets="$2" port="${3:-}" log="$VAR/log/mariadb.log" password i
    local network=(--skip-networking)
    [ -z "$port" ] || network=(--bind-address=127.0.0.1 --port="$port" --skip-name-resolve)
    [ -s "$folder.password" ] || (umask 077 && php -r 'echo bin2hex(random_bytes(24));' >"$folder.password")
    password="$(cat "$folder.password")"
    own_folder "$folder"
    own_folder "$folder.files"
    chown -R "$RUN_AS:$RUN_GROUP" "$folder" 2>/dev/null
    if [ ! -d "$folder/mysql" ]; then
        as_user mariadb-install-db --no-defaults --user="$RUN_AS" --datadir="$folder" --auth-root-authentication-method=normal --skip-test-db >"$VAR/log/mariadb-install.log" 2>&1 ||
            die "MariaDB's data folder could not be made; see $VAR/log/mariadb-install.log"
    fi
    # Whoever reads this file could read the password as well; it goes as soon as the server has.
    local init="$folder.files/init.sql"
    (umask 077 && cat >"$init" <<SQL
ALTER USER 'root'@'localhost' IDENTIFIED BY '$password';
CREATE DATABASE IF NOT EXISTS anvil CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
CREATE USER IF NOT EXISTS 'anvil'@'localhost';
ALTER USER 'anvil'@'localhost' IDENTIFIED BY '$password';
GRANT ALL PRIVILEGES ON anvil.* TO 'anvil'@'localhost';
$([ -z "$port" ] || printf '%s\n' "CREATE USER IF NOT EXISTS 'anvil'@'127.0.0.1' IDENTIFIED BY '$password';" "GRANT ALL PRIVILEGES ON anvil.* TO 'anvil'@'127.0.0.1';")
SQL
    )
    chown "$RUN_AS:$RUN_GROUP" "$init" 2>/dev/null
    : >>"$log"
    # Without a shell between: its number is the server's own.
    (exec setsid "${AS[@]+"${AS[@]}"}" mariadbd --no-defaults $([ "$RUN_AS" = root ] && echo --user=root) --datadir="$folder" "${network[@]}" --socket="$sockets/mysql.sock" --pid-file="$sockets/mysql.pid" --init-file="$init" \
        --secure-file-priv="$folder.files" --local-infile=0 --transaction-isolation=READ-COMMITTED --max-allowed-packet=256M --innodb-flush-log-at-trx-commit=1 --innodb-buffer-pool-size=256M \
        --character-set-server=utf8mb4 --collation-server=utf8mb4_bin ${DATABASE_OPTIONS[@]+"${DATABASE_OPTIONS[@]}"}) >>"$log" 2>&1 9>&- &
    DATABASE_PID=$!
    for i in $(seq 1 300); do
        MYSQL_PWD="$password" mariadb --no-defaults --socket="$sockets/mysql.sock" --user=anvil -e 'SELECT 1' anvil >/dev/null 2>&1 && break
        kill -0 "$DATABASE_PID" 2>/dev/null || { say "MariaDB did not start; the end of $log:
$(tail -n 6 "$log")"; return 1; }
        [ "$i" -lt 300 ] || { say "MariaDB does not answer; see $log"; return 1; }
        sleep 0.2
    done
    rm -f "$init"
}

# start_web PORT SOCKETS RUN: nginx with PHP-FPM on loopback. Sets FPM_PID and NGINX_PID.
start_web() {
    local port="$1" sockets="$2" run="$3" name
    own_folder "$run"
    for name in tmp body proxy fastcgi uwsgi scgi; do own_folder "$run/$name"; done
    for name in fpm php nginx; do : >>"$VAR/log/$name.log"; chown "$RUN_AS:$RUN_GROUP" "$VAR/log/$name.log" 2>/dev/null; done
    cat >"$run/fpm.conf" <<CONF
[global]
error_log = $VAR/log/fpm.log
daemonize = no
[anvil]
listen = $sockets/fpm.sock
listen.mode = 0600
pm = dynamic
pm.max_children = 12
pm.start_servers = 2
pm.min_spare_servers = 1
pm.max_spare_servers = 4
clear_env = no
catch_workers_output = yes
php_admin_value[memory_limit] = 768M
php_admin_value[opcache.enable] = 1
php_admin_value[opcache.jit] = 1054
php_admin_value[opcache.jit_buffer_size] = 64M
php_admin_value[post_max_size] = 32M
php_admin_value[sys_temp_dir] = $run/tmp
php_admin_value[upload_tmp_dir] = $run/tmp
php_admin_flag[expose_php] = off
php_admin_value[max_execution_time] = 300
php_admin_value[error_log] = $VAR/log/php.log
php_admin_flag[display_errors] = off
CONF
    # Configuration and routes are put together once a start, not once a request. Where that fails they are read as ever.
    mkdir -p "$run/framework" && chown "$RUN_AS:$RUN_GROUP" "$run/framework" 2>/dev/null
    local kept=(APP_CONFIG_CACHE="$run/framework/config.php" APP_ROUTES_CACHE="$run/framework/routes.php" APP_EVENTS_CACHE="$run/framework/events.php")
    if (cd "$ROOT" && env "${kept[@]}" "${AS[@]+"${AS[@]}"}" php artisan config:cache && env "${kept[@]}" "${AS[@]+"${AS[@]}"}" php artisan route:cache && env "${kept[@]}" "${AS[@]+"${AS[@]}"}" php artisan event:cache) >>"$VAR/log/fpm.log" 2>&1; then
        local one
        for one in "${kept[@]}"; do echo "env[${one%%=*}] = ${one#*=}"; done >>"$run/fpm.conf"
    fi
    cat >"$run/nginx.conf" <<CONF
$([ "$RUN_AS" = root ] && echo 'user root;')
worker_processes 1;
pid $run/nginx.pid;
daemon off;
events { worker_connections 256; }
http {
    include /etc/nginx/mime.types;
    access_log off;
    error_log $VAR/log/nginx.log warn;
    server_tokens off;
    default_type application/octet-stream;
    client_body_temp_path $run/body;
    proxy_temp_path $run/proxy;
    fastcgi_temp_path $run/fastcgi;
    uwsgi_temp_path $run/uwsgi;
    scgi_temp_path $run/scgi;
    client_max_body_size 32m;
    gzip on;
    gzip_types application/json application/javascript text/css application/octet-stream;
    # What a browser may do with an answer, errors too; PHP's own headers of these names are not passed on twice.
    add_header Content-Security-Policy "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; font-src 'self' data:; img-src 'self' data: blob:; connect-src 'self'; worker-src 'self' blob:; base-uri 'none'; form-action 'none'; frame-ancestors 'none'" always;
    add_header X-Content-Type-Options nosniff always;
    add_header X-Frame-Options DENY always;
    add_header Referrer-Policy no-referrer always;
    add_header Cross-Origin-Resource-Policy same-origin always;
    add_header Cross-Origin-Opener-Policy same-origin always;
    add_header Permissions-Policy "camera=(), microphone=(), geolocation=()" always;
    server {
        listen 127.0.0.1:$port;
        root $ROOT/public;
        client_header_timeout 20s;
        large_client_header_buffers 4 16k;
        error_page 400 414 431 /_words/400;
        error_page 413 /_words/413;
        error_page 500 507 =507 /_words/507;
        error_page 502 503 504 /_words/502;
        location = /_words/400 { internal; default_type application/json; return 400 '{"message":"The request cannot be read: an address or a header is too long, or damaged."}'; }
        location = /_words/413 { internal; default_type application/json; return 413 '{"message":"The request is too large. Files are sent in pieces of at most 8 MB."}'; }
        location = /_words/507 { internal; default_type application/json; return 507 '{"message":"That could not be taken in; the disk of Yellow Anvil may be full. Free some space there, and try again."}'; }
        location = /_words/502 { internal; default_type application/json; return 502 '{"message":"Yellow Anvil is starting or busy; try again in a few seconds."}'; }
        location /build/ { expires 30d; }
        location / { try_files \$uri /index.php?\$query_string; }
        location = /index.php {
            include /etc/nginx/fastcgi_params;
            fastcgi_hide_header Content-Security-Policy;
            fastcgi_hide_header X-Content-Type-Options;
            fastcgi_hide_header X-Frame-Options;
            fastcgi_hide_header Referrer-Policy;
            fastcgi_hide_header Cross-Origin-Resource-Policy;
            fastcgi_hide_header Cross-Origin-Opener-Policy;
            fastcgi_hide_header Permissions-Policy;
            fastcgi_param HTTP_HOST \$http_host;
            fastcgi_param SCRIPT_FILENAME $ROOT/public/index.php;
            fastcgi_pass unix:$sockets/fpm.sock;
            fastcgi_read_timeout 300;
        }
    }
}
CONF
    chown "$RUN_AS:$RUN_GROUP" "$run/fpm.conf" "$run/nginx.conf" 2>/dev/null
    start_fpm "$run" || return 1
    start_nginx "$run" || return 1
    local i
    for i in $(seq 1 150); do
        php -r 'exit(@file_get_contents("http://127.0.0.1:'"$port"'/up") === false ? 1 : 0);' && return 0
        kill -0 "$FPM_PID" 2>/dev/null || { say "PHP-FPM did not start; the end of $VAR/log/fpm.log:
$(tail -n 5 "$VAR/log/fpm.log")"; return 1; }
        kill -0 "$NGINX_PID" 2>/dev/null || { say "nginx did not start; the end of $VAR/log/nginx.log:
$(tail -n 5 "$VAR/log/nginx.log")"; return 1; }
        sleep 0.2
    done
    say "The web server started but does not answer; see $VAR/log/php.log and $VAR/log/app.log"
    return 1
}

start_fpm() {
    (exec setsid "${AS[@]+"${AS[@]}"}" php-fpm8.2 -y "$1/fpm.conf" $([ "$RUN_AS" = root ] && echo -R)) >>"$VAR/log/fpm.log" 2>&1 9>&- &
    FPM_PID=$!
}

start_nginx() {
    (exec setsid "${AS[@]+"${AS[@]}"}" nginx -c "$1/nginx.conf" -e "$VAR/log/nginx.log") >>"$VAR/log/nginx.log" 2>&1 9>&- &
    NGINX_PID=$!
}

# app_environment STORAGE SOCKETS PASSWORD_FILE ADDRESS RUN: what the application is told.
app_environment() {
    own_folder "$1"
    own_folder "$VAR/cache"
    own_folder "$VAR/cache/views"
    own_folder "$5"
    own_folder "$5/tmp"
    [ -s "$VAR/app.key" ] || (umask 077 && php -r 'echo "base64:".base64_encode(random_bytes(32));' >"$VAR/app.key")
    [ -s "$VAR/machine" ] || (umask 077 && php -r 'echo bin2hex(random_bytes(16));' >"$VAR/machine")
    APP_KEY="$(cat "$VAR/app.key")"
    ANVIL_MACHINE="$(cat "$VAR/machine")"
    DB_PASSWORD="$(has_own_database && cat "$3")"
    export APP_KEY ANVIL_MACHINE DB_PASSWORD
    export APP_NAME="Yellow Anvil" APP_ENV="${APP_ENV:-production}" APP_DEBUG=false APP_URL="$4"
    export DB_CONNECTION=mariadb DB_HOST=localhost DB_SOCKET="$2/mysql.sock" DB_DATABASE=anvil DB_USERNAME=anvil DB_COLLATION=utf8mb4_bin
    has_own_database || use_database_elsewhere
    export QUEUE_CONNECTION=database CACHE_STORE=database SESSION_DRIVER=database LOG_CHANNEL=safe ANVIL_STORAGE="$1" ANVIL_LOG="$VAR/log/app.log"
    export TMPDIR="$5/tmp" VIEW_COMPILED_PATH="$VAR/cache/views" APP_PACKAGES_CACHE="$VAR/cache/packages.php" APP_SERVICES_CACHE="$VAR/cache/services.php"
    : >>"$VAR/log/app.log"
    chown "$RUN_AS:$RUN_GROUP" "$VAR/log" "$VAR/log/app.log" 2>/dev/null
    # What a worker may use, and what the application tells people of it: 4G unless ANVIL_WORKER_MEMORY says otherwise.
    WORKER_MEMORY="${ANVIL_WORKER_MEMORY:-4G}"
    ANVIL_WORKER_BYTES="$(php -r 'echo ini_parse_quantity($argv[1]);' "$WORKER_MEMORY" 2>/dev/null)"
    export ANVIL_WORKER_BYTES
}

# Whether the database is this machine's own; another is named by ANVIL_DB_HOST (docs/deploy.md).
has_own_database() { [ -z "${ANVIL_DB_HOST:-}" ]; }

use_database_elsewhere() {
    [ -n "${ANVIL_DB_PASSWORD:-}" ] || die "ANVIL_DB_HOST is set, and ANVIL_DB_PASSWORD is not; see docs/deploy.md."
    DB_PASSWORD="$ANVIL_DB_PASSWORD"
    export DB_HOST="$ANVIL_DB_HOST" DB_PORT="${ANVIL_DB_PORT:-3306}" DB_DATABASE="${ANVIL_DB_NAME:-anvil}" DB_USERNAME="${ANVIL_DB_USER:-anvil}" DB_PASSWORD
    unset DB_SOCKET
}

artisan() { (cd "$ROOT" && as_user php artisan "$@"); }

# A worker of the queues named in order; both, small work first, unless told otherwise.
start_worker() {
    : >>"$VAR/log/worker.log"
    (cd "$ROOT" && exec setsid "${AS[@]+"${AS[@]}"}" php "${JIT[@]}" -d memory_limit="$WORKER_MEMORY" artisan queue:work database --queue="${1:-default,large}" --sleep=0.25 --max-jobs=2000 --memory=3500 --quiet) >>"$VAR/log/worker.log" 2>&1 9>&- &
    WORKER_PID=$!
}

start_keeper() {
    (cd "$ROOT" && exec setsid "${AS[@]+"${AS[@]}"}" php -d memory_limit=512M artisan anvil-keeper --quiet) >>"$VAR/log/keeper.log" 2>&1 9>&- &
    KEEPER_PID=$!
}
