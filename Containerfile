# Gentle Ember in a container: the page is built in one stage, the program runs in another as nobody.
#
#   podman build -t gentle-ember .
#   podman run --network host -v shop:/shop gentle-ember            this machine alone
#   podman run --network host -v shop:/shop gentle-ember --lan      phones too, paired, over TLS
#
# On the host's own network, since the program serves nobody beyond the machine but over TLS with a
# certificate for the addresses it is reached at.

FROM node:20-slim AS page
WORKDIR /src/frontend
COPY frontend/package.json frontend/package-lock.json frontend/.npmrc ./
RUN npm ci --no-audit --no-fund
COPY frontend ./
RUN npm run --silent build

FROM python:3.11-slim
WORKDIR /src
COPY requirements/runtime.txt requirements/
RUN pip install --no-cache-dir --require-hashes -r requirements/runtime.txt
COPY pyproject.toml hatch_build.py README.md LICENSE ./
COPY docs docs
COPY src src
COPY --from=page /src/src/gentle_ember/web/static src/gentle_ember/web/static
RUN pip install --no-cache-dir --no-deps --no-build-isolation . \
 && install -d -o nobody -g nogroup -m 700 /shop
USER nobody
ENV HOME=/shop
VOLUME /shop
EXPOSE 8765
HEALTHCHECK --interval=30s --timeout=5s CMD ["python", "-c", \
  "import socket; socket.create_connection(('127.0.0.1', 8765), 4)"]
STOPSIGNAL SIGTERM
ENTRYPOINT ["gentle-ember", "serve", "--data", "/shop"]
