# Shared by bin/start and bin/test: packages, builds, and the private servers. Sourced, not run.
# Every function says in words what it could not do, and exits.

ROOT="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
VAR="$ROOT/var"
JIT=(-d opcache.enable_cli=1 -d opcache.jit=tracing -d opcache.jit_buffer_size=128M -d opcache.jit_max_exit_counters=65536 -d opcache.jit_max_root_traces=8192 -d pcov.enabled=0)

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

APP_PACKAGES=(php8.2-cli php8.2-fpm php8.2-mysql php8.2-curl php8.2-zip php8.2-intl php8.2-mbstring php8.2-xml php8.2-opcache mariadb-server nginx)
TEST_PACKAGES=(chromium chromium-driver assimp-utils assimp-testmodels python3-scipy python3-jellyfish)

# Composer packages at the committed versions; what differs from the committed list is named.
need_composer() {
    command -v composer >/dev/null || die "Composer is missing; install it (Debian: apt-get install composer)."
    local stamp="$VAR/stamp.composer" now
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
    local stamp="$VAR/stamp.npm" now
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
    local stamp="$VAR/stamp.build" now
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

# Short paths for sockets: the system allows about 100 characters.
sockets_for() {
    local dir="${TMPDIR:-/tmp}/anvil-$(printf '%s' "$1" | sha256sum | cut -c1-12)"
    mkdir -p "$dir"
    chmod 700 "$dir"
    printf '%s' "$dir"
}

# start_database FOLDER PORT SOCKETS: a private MariaDB on loopback. Sets DATABASE_PID.
start_database() {
    local folder="$1" port="$2" sockets="$3" user
    user="$(id -un)"
    mkdir -p "$folder" "$VAR/log"
    if [ ! -d "$folder/mysql" ]; then
        mariadb-install-db --no-defaults --user="$user" --datadir="$folder" --auth-root-authentication-method=normal --skip-test-db >"$VAR/log/mariadb-install.log" 2>&1 ||
            die "MariaDB's data folder could not be made; see $VAR/log/mariadb-install.log"
    fi
    mariadbd --no-defaults --user="$user" --datadir="$folder" --bind-address=127.0.0.1 --port="$port" --socket="$sockets/mysql.sock" \
        --pid-file="$sockets/mysql.pid" --skip-name-resolve --transaction-isolation=READ-COMMITTED --max-allowed-packet=256M --innodb-flush-log-at-trx-commit=2 --innodb-buffer-pool-size=256M \
        --character-set-server=utf8mb4 --collation-server=utf8mb4_bin >"$VAR/log/mariadb-$port.log" 2>&1 &
    DATABASE_PID=$!
    local i
    for i in $(seq 1 150); do
        mariadb-admin --no-defaults --socket="$sockets/mysql.sock" --user=root ping >/dev/null 2>&1 && break
        kill -0 "$DATABASE_PID" 2>/dev/null || die "MariaDB did not start; the end of $VAR/log/mariadb-$port.log:
$(tail -n 6 "$VAR/log/mariadb-$port.log")"
        sleep 0.2
    done
    mariadb --no-defaults --socket="$sockets/mysql.sock" --user=root -e "CREATE DATABASE IF NOT EXISTS anvil" || die "The database could not be made."
}

# start_web PORT SOCKETS RUN: nginx with PHP-FPM on loopback. Sets FPM_PID and NGINX_PID.
start_web() {
    local port="$1" sockets="$2" run="$3" user
    user="$(id -un)"
    mkdir -p "$run/tmp" "$VAR/log"
    cat >"$run/fpm.conf" <<CONF
[global]
error_log = $VAR/log/fpm-$port.log
daemonize = no
[anvil]
user = $user
group = $(id -gn)
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
php_admin_value[opcache.jit] = tracing
php_admin_value[opcache.jit_buffer_size] = 64M
php_admin_value[post_max_size] = 32M
php_admin_value[max_execution_time] = 300
php_admin_value[error_log] = $VAR/log/php-$port.log
php_admin_flag[display_errors] = off
CONF
    cat >"$run/nginx.conf" <<CONF
$([ "$(id -u)" -eq 0 ] && echo "user $user;")
worker_processes 1;
pid $run/nginx.pid;
daemon off;
events { worker_connections 256; }
http {
    include /etc/nginx/mime.types;
    access_log off;
    error_log $VAR/log/nginx-$port.log warn;
    client_body_temp_path $run/tmp/body;
    proxy_temp_path $run/tmp/proxy;
    fastcgi_temp_path $run/tmp/fastcgi;
    uwsgi_temp_path $run/tmp/uwsgi;
    scgi_temp_path $run/tmp/scgi;
    client_max_body_size 32m;
    gzip on;
    gzip_types application/json application/javascript text/css application/octet-stream;
    server {
        listen 127.0.0.1:$port;
        root $ROOT/public;
        add_header X-Content-Type-Options nosniff;
        location /build/ { expires 30d; }
        location / { try_files \$uri /index.php?\$query_string; }
        location = /index.php {
            include /etc/nginx/fastcgi_params;
            fastcgi_param HTTP_HOST \$host:\$server_port;
            fastcgi_param SCRIPT_FILENAME $ROOT/public/index.php;
            fastcgi_pass unix:$sockets/fpm.sock;
            fastcgi_read_timeout 300;
        }
    }
}
CONF
    php-fpm8.2 -y "$run/fpm.conf" $([ "$(id -u)" -eq 0 ] && echo -R) >>"$VAR/log/fpm-$port.log" 2>&1 &
    FPM_PID=$!
    nginx -c "$run/nginx.conf" -e "$VAR/log/nginx-$port.log" >>"$VAR/log/nginx-$port.log" 2>&1 &
    NGINX_PID=$!
    local i
    for i in $(seq 1 100); do
        php -r 'exit(@file_get_contents("http://127.0.0.1:'"$port"'/up") === false ? 1 : 0);' && return 0
        kill -0 "$FPM_PID" 2>/dev/null || die "PHP-FPM did not start; the end of $VAR/log/fpm-$port.log:
$(tail -n 5 "$VAR/log/fpm-$port.log")"
        kill -0 "$NGINX_PID" 2>/dev/null || die "nginx did not start; the end of $VAR/log/nginx-$port.log:
$(tail -n 5 "$VAR/log/nginx-$port.log")"
        sleep 0.2
    done
    die "The web server started but does not answer; see $VAR/log/php-$port.log and $ROOT/storage/logs."
}

# app_environment STORAGE DATABASE_PORT ADDRESS: what the application is told.
app_environment() {
    mkdir -p "$1"
    [ -s "$VAR/app.key" ] || (umask 077 && php -r 'echo "base64:".base64_encode(random_bytes(32));' >"$VAR/app.key")
    export APP_NAME="Yellow Anvil" APP_ENV="${APP_ENV:-production}" APP_DEBUG=false APP_KEY="$(cat "$VAR/app.key")" APP_URL="$3"
    export DB_CONNECTION=mariadb DB_HOST=127.0.0.1 DB_PORT="$2" DB_DATABASE=anvil DB_USERNAME=root DB_PASSWORD= DB_COLLATION=utf8mb4_bin
    export QUEUE_CONNECTION=database DB_QUEUE_RETRY_AFTER=2100 CACHE_STORE=database SESSION_DRIVER=array LOG_CHANNEL=single ANVIL_STORAGE="$1"
}

start_worker() {
    (cd "$ROOT" && exec php "${JIT[@]}" -d memory_limit=4G artisan queue:work database --sleep=0.25 --tries=3 --timeout=1800 --max-jobs=2000 --memory=3500 --quiet) >>"$VAR/log/worker.log" 2>&1 &
    WORKER_PID=$!
}
