//! By which names the server is reached, and what a request says of the road it came by.

use axum::http::{HeaderMap, HeaderName, Version, header};
use std::net::IpAddr;
use thiserror::Error;

/// Names by which this machine calls itself.
const OWN_NAMES: [&str; 3] = ["127.0.0.1", "localhost", "[::1]"];

/// Headers that a proxy adds: whoever sends them does not sit at this machine.
const FORWARDED: [HeaderName; 3] = [header::FORWARDED, header::VIA, HeaderName::from_static("x-real-ip")];

/// An address that the server has beyond this machine, as people type it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PublicUrl {
    /// True for `https`.
    pub secure: bool,
    /// Host, and port where it is not the usual one.
    pub authority: String,
}

/// A text that is no such address.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error(
    "\u{201c}{0}\u{201d} is no public address; accepted is https:// or http:// with a host and perhaps a port, and nothing behind it, as https://bank.example"
)]
pub struct BadUrl(pub String);

impl std::str::FromStr for PublicUrl {
    type Err = BadUrl;
    fn from_str(text: &str) -> Result<Self, BadUrl> {
        let bad = || BadUrl(text.to_owned());
        let (secure, rest) = match text.split_once("://").ok_or_else(bad)? {
            ("https", rest) => (true, rest),
            ("http", rest) => (false, rest),
            _ => return Err(bad()),
        };
        let authority = rest.strip_suffix('/').unwrap_or(rest).to_lowercase();
        let usual = if secure { ":443" } else { ":80" };
        let authority = authority.strip_suffix(usual).unwrap_or(&authority).to_owned();
        let (host, port) =
            authority.split_once(':').map_or((authority.as_str(), None), |(h, p)| (h, Some(p)));
        let plain = |c: char| c.is_ascii_alphanumeric() || matches!(c, '.' | '-');
        if host.is_empty() || !host.chars().all(plain) || port.is_some_and(|p| p.parse::<u16>().is_err()) {
            return Err(bad());
        }
        Ok(Self { secure, authority })
    }
}

impl std::fmt::Display for PublicUrl {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "{}://{}", if self.secure { "https" } else { "http" }, self.authority)
    }
}

/// How the server is reached.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Reach {
    /// The port it listens on.
    pub port: u16,
    /// True when it speaks TLS itself.
    pub secure: bool,
    /// Names by which devices beyond this machine reach it directly; empty: none do.
    pub hosts: Vec<String>,
    /// Addresses by which they reach it through a proxy.
    pub public: Vec<PublicUrl>,
    /// Whose forwarded headers count.
    pub proxies: Vec<IpAddr>,
}

/// What a request says of where it comes from.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Road {
    /// From this machine, by one of its own names, through nobody's hands.
    Desk,
    /// By a name of this server, from a device; true when nobody on the way could read it.
    Device {
        /// True over TLS, here or at the proxy.
        secure: bool,
    },
    /// By a name that is not this server's.
    Foreign,
}

/// True for `name` with this port, which need not be said when it is the usual one.
fn is_named(authority: &str, name: &str, port: u16, secure: bool) -> bool {
    let usual = if secure { 443 } else { 80 };
    authority
        .strip_prefix(name)
        .is_some_and(|rest| rest == format!(":{port}") || (rest.is_empty() && port == usual))
}

fn text(headers: &HeaderMap, name: &HeaderName) -> Option<String> {
    headers.get(name).and_then(|v| v.to_str().ok()).map(str::to_lowercase)
}

/// True when the request passed through somebody's hands. A browser speaks HTTP/1.1 or later; a proxy
/// that adds no header often asks in HTTP/1.0.
fn was_forwarded(headers: &HeaderMap, version: Version) -> bool {
    version < Version::HTTP_11
        || FORWARDED.iter().any(|name| headers.contains_key(name))
        || headers.keys().any(|name| name.as_str().starts_with("x-forwarded"))
}

impl Reach {
    /// True when anything beyond this machine reaches it.
    pub fn is_open(&self) -> bool {
        !self.hosts.is_empty() || !self.public.is_empty()
    }

    /// Where a phone is sent to be let in; none: nowhere.
    pub fn phone_address(&self) -> Option<String> {
        let direct = self
            .hosts
            .first()
            .map(|host| format!("{}://{host}:{}", if self.secure { "https" } else { "http" }, self.port));
        self.public.first().map(ToString::to_string).or(direct)
    }

    /// Names it is reached by, as people type them.
    pub fn names(&self) -> Vec<String> {
        self.public.iter().map(|url| url.authority.clone()).chain(self.hosts.iter().cloned()).collect()
    }

    fn is_own(&self, authority: &str) -> bool {
        OWN_NAMES.iter().any(|name| is_named(authority, name, self.port, self.secure))
    }

    fn is_host(&self, authority: &str) -> bool {
        self.hosts.iter().any(|name| is_named(authority, &name.to_lowercase(), self.port, self.secure))
    }

    /// True for an origin that is a page of this server.
    fn is_origin(&self, origin: &str, own: bool) -> bool {
        let scheme = if self.secure { "https://" } else { "http://" };
        let direct = origin.strip_prefix(scheme);
        if own {
            return direct.is_some_and(|authority| self.is_own(authority));
        }
        direct.is_some_and(|authority| self.is_host(authority))
            || self.public.iter().any(|url| url.to_string() == origin)
    }

    /// Where a request comes from by its address, its names, and what was added on the way.
    pub fn road(&self, peer: Option<IpAddr>, headers: &HeaderMap, version: Version) -> Road {
        let forwarded = was_forwarded(headers, version);
        // Without a known peer there is one way in, the loopback listener.
        let peer = peer.map(|ip| ip.to_canonical());
        let near = peer.is_none_or(|ip| ip.is_loopback());
        let trusted = forwarded && peer.is_some_and(|ip| self.proxies.contains(&ip));
        let origin = text(headers, &header::ORIGIN);
        let comes_from = |own: bool| origin.as_ref().is_none_or(|o| self.is_origin(o, own));
        let Some(host) = text(headers, &header::HOST) else { return Road::Foreign };
        if near && !forwarded && self.is_own(&host) {
            return if comes_from(true) { Road::Desk } else { Road::Foreign };
        }
        // A proxy that keeps the name, or one whose word for it counts.
        let said = text(headers, &HeaderName::from_static("x-forwarded-host")).filter(|_| trusted);
        let public = |name: &String| self.public.iter().find(|url| url.authority == *name);
        let by_proxy = public(&host).or_else(|| said.as_ref().and_then(public));
        if !comes_from(false) {
            return Road::Foreign;
        }
        match by_proxy {
            Some(url) => Road::Device { secure: url.secure && (trusted || self.secure) },
            None if self.is_host(&host) => Road::Device { secure: self.secure },
            None => Road::Foreign,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn reach() -> Reach {
        Reach {
            port: 7480,
            hosts: vec!["bench.local".into()],
            public: vec!["https://banks.example".parse().unwrap()],
            proxies: vec!["127.0.0.2".parse().unwrap()],
            ..Reach::default()
        }
    }

    fn road(peer: &str, headers: &[(&'static str, &str)]) -> Road {
        let mut map = HeaderMap::new();
        for (name, value) in headers {
            map.insert(HeaderName::from_static(name), value.parse().unwrap());
        }
        reach().road(Some(peer.parse().unwrap()), &map, Version::HTTP_11)
    }

    #[test]
    fn only_this_machine_by_its_own_names_and_port_is_the_desk() {
        for own in ["127.0.0.1:7480", "localhost:7480", "[::1]:7480", "LOCALHOST:7480"] {
            assert_eq!(road("127.0.0.1", &[("host", own)]), Road::Desk, "{own}");
        }
        for foreign in [
            "127.0.0.1:7481",
            "127.0.0.1",
            "localhost:7480.rebound.example",
            "localhost.rebound.example:7480",
            "127.0.0.1:74800",
            "192.168.0.7:7480",
            "",
        ] {
            assert_eq!(road("127.0.0.1", &[("host", foreign)]), Road::Foreign, "{foreign}");
        }
        assert_eq!(road("192.168.0.9", &[("host", "localhost:7480")]), Road::Foreign, "from afar");
        let elsewhere = [("host", "localhost:7480"), ("origin", "http://evil.example")];
        assert_eq!(road("127.0.0.1", &elsewhere), Road::Foreign);
        assert!(is_named("localhost", "localhost", 80, false), "the port of the web needs no saying");
    }

    #[test]
    fn a_request_that_passed_through_a_proxy_is_never_the_desk() {
        for (name, value) in [
            ("x-forwarded-for", "127.0.0.1"),
            ("x-forwarded-proto", "https"),
            ("forwarded", "for=127.0.0.1"),
            ("via", "1.1 somewhere"),
            ("x-real-ip", "127.0.0.1"),
        ] {
            for peer in ["127.0.0.1", "127.0.0.2"] {
                assert_eq!(road(peer, &[("host", "localhost:7480"), (name, value)]), Road::Foreign, "{name}");
            }
        }
        let mut headers = HeaderMap::new();
        headers.insert(header::HOST, "localhost:7480".parse().unwrap());
        let old = reach().road(Some("127.0.0.1".parse().unwrap()), &headers, Version::HTTP_10);
        assert_eq!(old, Road::Foreign, "no browser asks in HTTP/1.0");
    }

    #[test]
    fn the_word_of_a_trusted_proxy_counts_and_nobody_elses() {
        let kept = [
            ("host", "banks.example"),
            ("x-forwarded-for", "198.51.100.7"),
            ("origin", "https://banks.example"),
        ];
        assert_eq!(road("127.0.0.2", &kept), Road::Device { secure: true });
        assert_eq!(road("127.0.0.1", &kept), Road::Device { secure: false }, "nobody vouches for the road");
        let replaced = [
            ("host", "127.0.0.1:7480"),
            ("x-forwarded-host", "banks.example"),
            ("x-forwarded-for", "198.51.100.7"),
        ];
        assert_eq!(road("127.0.0.2", &replaced), Road::Device { secure: true });
        assert_eq!(road("127.0.0.1", &replaced), Road::Foreign);
        let elsewhere =
            [("host", "banks.example"), ("x-forwarded-for", "x"), ("origin", "https://evil.example")];
        assert_eq!(road("127.0.0.2", &elsewhere), Road::Foreign);
        assert_eq!(road("192.168.0.9", &[("host", "bench.local:7480")]), Road::Device { secure: false });
    }

    #[test]
    fn public_addresses_are_origins_and_nothing_more() {
        let parse = |text: &str| text.parse::<PublicUrl>();
        assert_eq!(parse("https://Banks.example:443/").unwrap().to_string(), "https://banks.example");
        assert_eq!(parse("http://10.0.0.7:8080").unwrap().authority, "10.0.0.7:8080");
        for odd in [
            "banks.example",
            "ftp://x",
            "https://",
            "https://a/b",
            "https://a:b",
            "https://u@a",
            "https://a b",
        ] {
            assert!(parse(odd).is_err(), "{odd}");
        }
    }
}
