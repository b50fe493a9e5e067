"""A shop's own certificates, so that phones on its network get a page that works offline.

A phone keeps a page for offline work only when it trusts the connection. The shop makes an
authority once, which a phone installs once, and with it signs the certificate it serves with.
"""

from __future__ import annotations

import datetime as dt
import ipaddress
import os
import socket
from dataclasses import dataclass
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

AUTHORITY_YEARS, SERVED_DAYS, RENEW_DAYS = 10, 397, 30
"""Phones refuse certificates that are valid for more than 398 days."""


@dataclass(frozen=True, slots=True)
class Certificates:
    """Where the files are, and the authority's fingerprint."""

    certificate: Path
    key: Path
    authority: Path
    fingerprint: str


def addresses() -> tuple[str, ...]:
    """IPv4 addresses of this machine on its networks, loopback left out; it is served on those.

    Nothing is sent: opening a datagram socket toward an address only chooses the way out.
    """
    found: dict[str, None] = {}
    try:
        with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
            probe.connect(("192.0.2.1", 9))
            found[probe.getsockname()[0]] = None
    except OSError:
        pass
    try:
        for entry in socket.getaddrinfo(socket.gethostname(), None, socket.AF_INET):
            found[str(entry[4][0])] = None
    except OSError:
        pass
    return tuple(one for one in found if not ipaddress.ip_address(one).is_loopback)


def certificates(folder: Path, names: tuple[str, ...]) -> Certificates:
    """The shop's certificates, made when missing, about to lapse, or for other names.

    Args:
        folder: where they are kept; the keys can be read by its owner only.
        names: addresses and host names the certificate is for.
    """
    folder.mkdir(parents=True, exist_ok=True)
    files = {name: folder / name for name in ("authority.crt", "authority.key", "served.crt",
                                              "served.key")}  # fmt: skip
    whole = files["authority.crt"].is_file() and files["authority.key"].is_file()
    if not (whole and _vouches(files["authority.crt"], names)):
        # Lapsed, or not for these names: each phone trusts the shop once more.
        _make_authority(files["authority.crt"], files["authority.key"], names)
        files["served.crt"].unlink(missing_ok=True)
    authority = x509.load_pem_x509_certificate(files["authority.crt"].read_bytes())
    if not (files["served.key"].is_file() and _serves(files["served.crt"], names)):
        key = serialization.load_pem_private_key(files["authority.key"].read_bytes(), None)
        if not isinstance(key, ec.EllipticCurvePrivateKey):
            raise ValueError(f"{files['authority.key']} is not a key this program made")
        _make_served(files["served.crt"], files["served.key"], names, authority, key)
    digest = authority.fingerprint(hashes.SHA256()).hex().upper()
    pairs = ":".join(digest[at : at + 2] for at in range(0, len(digest), 2))
    return Certificates(files["served.crt"], files["served.key"], files["authority.crt"], pairs)


def _now() -> dt.datetime:
    return dt.datetime.now(dt.UTC)


def _name(text: str) -> x509.Name:
    return x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, text)])


def _secret(path: Path, key: ec.EllipticCurvePrivateKey) -> None:
    data = key.private_bytes(
        serialization.Encoding.PEM,
        serialization.PrivateFormat.PKCS8,
        serialization.NoEncryption(),
    )
    path.unlink(missing_ok=True)
    with os.fdopen(os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "wb") as out:
        out.write(data)


NEAR = tuple(
    map(
        ipaddress.ip_network,
        (
            "127.0.0.0/8", "10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16",
            "100.64.0.0/10", "::1/128", "fc00::/7", "fe80::/10",
        ),
    )
)  # fmt: skip
"""Networks of houses and shops; no site of the open internet is on one of them."""


def _limits(names: tuple[str, ...]) -> x509.NameConstraints:
    """What the authority may vouch for: whoever steals its key can pose as nothing else."""
    near: list[x509.GeneralName] = [x509.IPAddress(one) for one in NEAR]
    for name in dict.fromkeys((*names, "localhost")):
        try:
            address = ipaddress.ip_address(name)
        except ValueError:
            near.append(x509.DNSName(name))
            continue
        if not any(address in one for one in NEAR):
            near.append(x509.IPAddress(ipaddress.ip_network(address)))
    return x509.NameConstraints(permitted_subtrees=near, excluded_subtrees=None)


def _vouches(certificate: Path, names: tuple[str, ...]) -> bool:
    """Whether an authority still stands, and may vouch for these names."""
    held = x509.load_pem_x509_certificate(certificate.read_bytes())
    if held.not_valid_after_utc < _now() + dt.timedelta(days=RENEW_DAYS):
        return False
    try:
        limits = held.extensions.get_extension_for_class(x509.NameConstraints).value
    except x509.ExtensionNotFound:
        return True  # made before it was limited: phones trust it as it is
    permitted = limits.permitted_subtrees or []
    hosts = {one.value for one in permitted if isinstance(one, x509.DNSName)}
    nets = [one.value for one in permitted if isinstance(one, x509.IPAddress)]
    for name in names:
        try:
            address = ipaddress.ip_address(name)
        except ValueError:
            if name not in hosts:
                return False
            continue
        if not any(address in one for one in nets if isinstance(one, _NETWORKS)):
            return False
    return True


_NETWORKS = (ipaddress.IPv4Network, ipaddress.IPv6Network)


def _make_authority(certificate: Path, key_file: Path, names: tuple[str, ...]) -> None:
    key = ec.generate_private_key(ec.SECP256R1())
    name = _name("Gentle Ember, this shop")
    made = (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(name)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(_now() - dt.timedelta(days=1))
        .not_valid_after(_now() + dt.timedelta(days=366 * AUTHORITY_YEARS))
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(_usage(signs=True), critical=True)
        .add_extension(_limits(names), critical=True)
        .sign(key, hashes.SHA256())
    )
    _secret(key_file, key)
    certificate.write_bytes(made.public_bytes(serialization.Encoding.PEM))


def _usage(*, signs: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=True, content_commitment=False, key_encipherment=False,
        data_encipherment=False, key_agreement=False, key_cert_sign=signs, crl_sign=signs,
        encipher_only=False, decipher_only=False,
    )  # fmt: skip


def _alternatives(names: tuple[str, ...]) -> x509.SubjectAlternativeName:
    found: list[x509.GeneralName] = []
    for name in names:
        try:
            found.append(x509.IPAddress(ipaddress.ip_address(name)))
        except ValueError:
            found.append(x509.DNSName(name))
    return x509.SubjectAlternativeName(found)


def _make_served(
    certificate: Path,
    key_file: Path,
    names: tuple[str, ...],
    authority: x509.Certificate,
    signing: ec.EllipticCurvePrivateKey,
) -> None:
    key = ec.generate_private_key(ec.SECP256R1())
    made = (
        x509.CertificateBuilder()
        .subject_name(_name("Gentle Ember"))
        .issuer_name(authority.subject)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(_now() - dt.timedelta(days=1))
        .not_valid_after(_now() + dt.timedelta(days=SERVED_DAYS))
        .add_extension(_alternatives(names), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(_usage(signs=False), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .sign(signing, hashes.SHA256())
    )
    _secret(key_file, key)
    certificate.write_bytes(
        made.public_bytes(serialization.Encoding.PEM)
        + authority.public_bytes(serialization.Encoding.PEM)
    )


def _serves(path: Path, names: tuple[str, ...]) -> bool:
    """Whether a certificate is for these names and for long enough."""
    if not path.is_file():
        return False
    held = x509.load_pem_x509_certificate(path.read_bytes())
    if held.not_valid_after_utc < _now() + dt.timedelta(days=RENEW_DAYS):
        return False
    found = held.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    return set(found) == set(_alternatives(names))


def names() -> tuple[str, ...]:
    """Every name the shop's certificate is for."""
    return (*addresses(), "localhost", "127.0.0.1", "::1")
