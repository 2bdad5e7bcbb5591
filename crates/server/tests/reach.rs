//! Who is let in: the desk, paired devices, what comes through proxies, calendar programs; over plain
//! HTTP, TLS and a real proxy.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::proxy::{certificate, documented, nginx};
use crate::common::{Shop, answer, id};
use rainshadow::Settings;
use reqwest::{Client, Method, RequestBuilder, StatusCode};
use serde_json::{Value, json};
use std::io::{Read as _, Write as _};
use std::net::{IpAddr, TcpListener, TcpStream};

/// A browser that believes this certificate and finds the name at an address.
fn browser(name: &str, at: std::net::SocketAddr, pem: &str) -> Client {
    Client::builder()
        .cookie_store(true)
        .add_root_certificate(reqwest::Certificate::from_pem(pem.as_bytes()).unwrap())
        .resolve(name, at)
        .build()
        .unwrap()
}

async fn code(shop: &Shop, scope: &str) -> (String, String) {
    let (status, said) =
        shop.send(Method::POST, &format!("/api/devices/code?scope={scope}"), &json!(null)).await;
    assert_eq!(status, StatusCode::OK, "{said}");
    (said["code"].as_str().unwrap().to_owned(), said["address"].as_str().unwrap().to_owned())
}

/// A device that calls the server by a name; its cookie after it was let in.
async fn paired(shop: &Shop, host: &str, scope: &str) -> String {
    let (code, _) = code(shop, scope).await;
    let sent = shop
        .request(Method::POST, "/api/pair")
        .header("host", host)
        .json(&json!({"code": code, "name": "van phone"}))
        .send()
        .await
        .unwrap();
    assert_eq!(sent.status(), StatusCode::NO_CONTENT);
    sent.headers()["set-cookie"].to_str().unwrap().split(';').next().unwrap().to_owned()
}

fn port(shop: &Shop) -> &str {
    shop.base.rsplit(':').next().unwrap()
}

async fn open(public: &[&str], proxies: &[&str], hosts: &[&str]) -> Shop {
    Shop::open_with(|settings| Settings {
        public_urls: public.iter().map(|u| u.parse().unwrap()).collect(),
        trusted_proxies: proxies.iter().map(|p| p.parse::<IpAddr>().unwrap()).collect(),
        hosts: hosts.iter().map(|h| (*h).to_owned()).collect(),
        ..settings
    })
    .await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_proxy_on_the_same_machine_makes_no_stranger_the_desk() {
    let shop = open(&["https://banks.example"], &["127.0.0.1"], &[]).await;
    let own = format!("127.0.0.1:{}", port(&shop));
    let ask = |name: &'static str, value: &'static str, host: &str| {
        shop.request(Method::POST, "/api/devices/code").header("host", host).header(name, value)
    };
    for (name, value) in [
        ("x-forwarded-for", "198.51.100.7"),
        ("forwarded", "for=198.51.100.7"),
        ("via", "1.1 p"),
        ("x-real-ip", "198.51.100.7"),
    ] {
        for host in [own.as_str(), "banks.example", "evil.example"] {
            let (status, said) = answer(ask(name, value, host).send().await.unwrap()).await;
            assert_eq!(status, StatusCode::FORBIDDEN, "{name} {host}: {said}");
        }
        let page = shop.request(Method::GET, "/api/banks").header("host", &own).header(name, value);
        assert_eq!(page.send().await.unwrap().status(), StatusCode::FORBIDDEN, "{name}");
    }
    // the desk itself, by its own name and through nobody's hands
    assert_eq!(code(&shop, "all").await.1, "https://banks.example/pair");
    // a stranger through the proxy gets as far as the page where a code is typed
    let page = shop
        .request(Method::GET, "/banks")
        .header("host", "banks.example")
        .header("x-forwarded-for", "198.51.100.7");
    assert!(page.send().await.unwrap().url().path().ends_with("/pair"));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_device_for_visits_does_visits_and_nothing_of_the_shop() {
    let shop = open(&[], &[], &["bench.local"]).await;
    let bank = shop.bank().await;
    let host = format!("bench.local:{}", port(&shop));
    let cookie = paired(&shop, &host, "visits").await;
    assert!(cookie.starts_with(&format!("rainshadow_device_{}=", port(&shop))), "{cookie}");
    let phone = |method: Method, path: &str| -> RequestBuilder {
        shop.request(method, path).header("host", &host).header("cookie", &cookie)
    };
    for (method, path) in [
        (Method::GET, format!("/api/banks/{bank}/export.json")),
        (Method::GET, format!("/api/banks/{bank}/export.csv")),
        (Method::POST, "/api/import".into()),
        (Method::GET, format!("/api/plans/{}/plan.csv", id())),
        (Method::GET, format!("/api/plans/{}/plan.json", id())),
        (Method::POST, "/api/plans/read".into()),
        (Method::PUT, format!("/api/banks/{bank}/records/{}", id())),
        (Method::PUT, format!("/api/banks/{bank}/notebook/{}", id())),
        (Method::POST, format!("/api/banks/{bank}/archive")),
        (Method::DELETE, format!("/api/banks/{bank}")),
        (Method::PUT, format!("/api/banks/{bank}/house-rules")),
        (Method::PUT, "/api/house-rules/own".into()),
        (Method::POST, "/api/devices/code".into()),
        (Method::POST, "/api/demo".into()),
    ] {
        let sent =
            phone(method.clone(), &path).header("if-match", "\"1\"").json(&json!({})).send().await.unwrap();
        assert_eq!(sent.status(), StatusCode::FORBIDDEN, "{method} {path}");
    }
    let visit = json!({"bank": bank});
    let begun = phone(Method::PUT, &format!("/api/visits/{}", id())).json(&visit).send().await.unwrap();
    assert_eq!(begun.status(), StatusCode::CREATED);
    assert_eq!(phone(Method::GET, "/api/today").send().await.unwrap().status(), StatusCode::OK);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_device_that_is_not_seen_for_ninety_days_is_let_in_no_more() {
    let shop = open(&[], &[], &["bench.local"]).await;
    let host = format!("bench.local:{}", port(&shop));
    let cookie = paired(&shop, &host, "all").await;
    let ask = async || {
        let sent = shop.request(Method::GET, "/api/banks").header("host", &host).header("cookie", &cookie);
        sent.send().await.unwrap().status()
    };
    let seen = async || shop.get("/api/devices").await["devices"][0]["seen_at"].as_str().unwrap().to_owned();
    for _ in 0..2 {
        let before = seen().await;
        shop.clock.pass(80 * 86_400);
        assert_eq!(ask().await, StatusCode::OK, "seen within 90 days");
        // noted by the way
        while seen().await == before {
            tokio::task::yield_now().await;
        }
    }
    shop.clock.pass(91 * 86_400);
    assert_eq!(ask().await, StatusCode::FORBIDDEN);
    assert_eq!(shop.get("/api/devices").await["devices"][0]["lapsed"], true);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_calendar_program_is_let_in_by_its_own_address_to_the_calendar_alone() {
    let shop = open(&[], &[], &["bench.local"]).await;
    shop.bank().await;
    let host = format!("bench.local:{}", port(&shop));
    let person = id();
    shop.put(&format!("/api/people/{person}"), &json!({"initials": "TA", "single_keys": true})).await;
    let feed = format!("/api/people/{person}/calendar");
    let make = async || {
        let (status, said) = shop.send(Method::POST, &feed, &json!(null)).await;
        assert_eq!(status, StatusCode::CREATED, "{said}");
        let address = said["address"].as_str().unwrap();
        address.strip_prefix(&format!("http://{host}")).unwrap().to_owned()
    };
    let ask = async |path: &str| shop.request(Method::GET, path).header("host", &host).send().await.unwrap();
    let first = make().await;
    assert!(ask(&first).await.text().await.unwrap().starts_with("BEGIN:VCALENDAR"));
    let token = first.split("token=").nth(1).unwrap();
    for path in [
        "/api/calendar.ics".to_owned(),
        "/api/calendar.ics?token=guess".into(),
        format!("/api/banks?token={token}"),
    ] {
        assert_eq!(ask(&path).await.status(), StatusCode::FORBIDDEN, "{path}");
    }
    assert!(shop.get(&feed).await["since"].is_string() && shop.get(&feed).await["address"].is_null());
    let second = make().await;
    assert_eq!(ask(&first).await.status(), StatusCode::FORBIDDEN, "a new address ends the old one");
    assert_eq!(ask(&second).await.status(), StatusCode::OK);
    shop.send(Method::DELETE, &feed, &json!(null)).await;
    assert_eq!(ask(&second).await.status(), StatusCode::FORBIDDEN);
    // what is kept opens nothing
    let folder = shop.close().await;
    let bytes = std::fs::read(folder.path().join("rainshadow.db")).unwrap();
    assert!(!bytes.windows(token.len()).any(|w| w == token.as_bytes()), "only its hash is kept");
}

/// A request as bytes; the answer's head.
fn raw(base: &str, request: &str) -> String {
    let mut stream = TcpStream::connect(base.trim_start_matches("http://")).unwrap();
    stream.write_all(request.as_bytes()).unwrap();
    let mut said = Vec::new();
    let _ = stream.read_to_end(&mut said);
    String::from_utf8_lossy(&said).into_owned()
}

#[tokio::test(flavor = "multi_thread")]
async fn requests_that_can_be_read_in_two_ways_are_refused() {
    let shop = Shop::open().await;
    let (base, host) = (shop.base.clone(), shop.base.trim_start_matches("http://").to_owned());
    let refused = tokio::task::spawn_blocking(move || {
        let ask = |head: &str| raw(&base, &format!("{head}Connection: close\r\n\r\n0\r\n\r\n"));
        [
            ("two hosts", ask(&format!("GET /api/meta HTTP/1.1\r\nHost: {host}\r\nHost: evil.example\r\n"))),
            (
                "the same host twice",
                ask(&format!("GET /api/meta HTTP/1.1\r\nHost: {host}\r\nHost: {host}\r\n")),
            ),
            ("no host", ask("GET /api/meta HTTP/1.1\r\n")),
            (
                "length, then pieces",
                ask(&format!(
                    "POST /api/import HTTP/1.1\r\nHost: {host}\r\nContent-Length: 5\r\nTransfer-Encoding: chunked\r\n"
                )),
            ),
            (
                "pieces, then length",
                ask(&format!(
                    "POST /api/import HTTP/1.1\r\nHost: {host}\r\nTransfer-Encoding: chunked\r\nContent-Length: 5\r\n"
                )),
            ),
            (
                "two lengths",
                ask(&format!(
                    "POST /api/import HTTP/1.1\r\nHost: {host}\r\nContent-Length: 5\r\nContent-Length: 6\r\n"
                )),
            ),
            (
                "an odd coding",
                ask(&format!("POST /api/import HTTP/1.1\r\nHost: {host}\r\nTransfer-Encoding: xchunked\r\n")),
            ),
        ]
    });
    for (case, said) in refused.await.unwrap() {
        let status: u16 = said.split(' ').nth(1).and_then(|s| s.parse().ok()).unwrap_or(0);
        assert!(matches!(status, 400 | 411), "{case}: {said}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn every_answer_keeps_to_itself_and_every_error_is_a_problem() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let answered = shop.request(Method::GET, &format!("/api/banks/{bank}")).send().await.unwrap();
    let headers = answered.headers();
    assert_eq!(headers["cache-control"], "no-store");
    assert_eq!(headers["cross-origin-resource-policy"], "same-origin");
    assert!(headers["etag"].to_str().unwrap().starts_with('"') && headers.contains_key("x-request-id"));
    for (method, path, status) in [
        (Method::GET, "/api/today?from=many".to_owned(), 400),
        (Method::GET, "/api/photos/17".into(), 422),
        (Method::GET, format!("/api/photos/{}?small=perhaps", id()), 400),
        (Method::POST, format!("/api/banks/{bank}"), 405),
        (Method::GET, "/api/nothing".into(), 404),
        (Method::GET, "/assets/nothing.js".into(), 404),
        (Method::PUT, format!("/api/sites/{}", id()), 400),
        (Method::GET, format!("/api/banks/{}", id()), 404),
        (Method::GET, format!("/api/banks/{bank}/cells/Q"), 422),
        (Method::GET, "/api/%FF%FE".into(), 404),
    ] {
        let sent = shop.request(method.clone(), &path).send().await.unwrap();
        assert_eq!(sent.status(), status, "{method} {path}");
        assert_eq!(sent.headers()["content-type"], "application/problem+json", "{method} {path}");
        let said: Value = sent.json().await.unwrap();
        assert_eq!(said["status"], status, "{path}: {said}");
        assert!(!said["detail"].as_str().unwrap().is_empty(), "{path}");
    }
    assert!(
        shop.request(Method::POST, &format!("/api/banks/{bank}"))
            .send()
            .await
            .unwrap()
            .headers()
            .contains_key("allow")
    );
    for path in ["/healthz", "/readyz"] {
        let sent = shop.request(Method::GET, path).header("host", "any.example").send().await.unwrap();
        assert_eq!(sent.status(), StatusCode::OK, "{path}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn a_photograph_is_not_packed_twice_and_a_page_is_packed() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = id();
    shop.put(&format!("/api/visits/{visit}"), &json!({"bank": bank})).await;
    let photo = id();
    let path = format!("/api/visits/{visit}/photos/{photo}?what=other");
    shop.request(Method::PUT, &path).body(crate::common::jpeg(900, 700, 30)).send().await.unwrap();
    let packed = async |path: &str| {
        let sent = shop.request(Method::GET, path).header("accept-encoding", "gzip").send().await.unwrap();
        sent.headers().contains_key("content-encoding")
    };
    assert!(!packed(&format!("/api/photos/{photo}")).await);
    assert!(packed(&format!("/api/banks/{bank}")).await);
}

#[tokio::test(flavor = "multi_thread")]
async fn the_server_speaks_tls_itself_and_its_cookie_travels_by_tls_alone() {
    let keys = tempfile::tempdir().unwrap();
    let (files, pem) = certificate(keys.path(), "localhost");
    let shop = Shop::open_with(|settings| Settings {
        tls: Some(files),
        hosts: vec!["bench.local".into()],
        ..settings
    })
    .await;
    let at = shop.base.trim_start_matches("https://").parse().unwrap();
    let desk = browser("localhost", at, &pem);
    let base = format!("https://localhost:{}", at.port());
    let said: Value =
        desk.post(format!("{base}/api/devices/code")).send().await.unwrap().json().await.unwrap();
    let address = said["address"].as_str().unwrap();
    assert_eq!(address, format!("https://bench.local:{}/pair", at.port()));
    let sent = desk
        .post(format!("{base}/api/pair"))
        .header("host", format!("bench.local:{}", at.port()))
        .json(&json!({"code": said["code"], "name": "phone"}))
        .send()
        .await
        .unwrap();
    assert_eq!(sent.status(), StatusCode::NO_CONTENT);
    assert!(sent.headers()["set-cookie"].to_str().unwrap().ends_with("; Secure"));
    // plain text is no TLS
    let plain = Client::new().get(format!("http://{at}/api/meta")).send().await;
    assert!(plain.is_err() || !plain.unwrap().status().is_success());
}

#[tokio::test(flavor = "multi_thread")]
async fn the_documented_proxy_lets_a_phone_pair_and_makes_nobody_the_desk() {
    let folder = tempfile::tempdir().unwrap();
    let (_, pem) = certificate(folder.path(), "banks.example");
    let shop = open(&["https://banks.example"], &["127.0.0.2"], &[]).await;
    // a port that was free a moment ago, on a loopback address of the proxy's own
    let at = TcpListener::bind("127.0.0.2:0").unwrap().local_addr().unwrap();
    let configuration = folder.path().join("nginx.conf");
    let text = documented(shop.base.trim_start_matches("http://"), &at.to_string(), folder.path());
    std::fs::write(&configuration, text).unwrap();
    let _proxy = nginx(&configuration);
    let phone = browser("banks.example", at, &pem);
    let ask = |method: Method, path: &str| {
        phone
            .request(method, format!("https://banks.example:{}{path}", at.port()))
            .header("host", "banks.example")
    };
    while ask(Method::GET, "/healthz").send().await.is_err() {
        tokio::task::yield_now().await;
    }
    assert_eq!(ask(Method::GET, "/api/banks").send().await.unwrap().status(), StatusCode::FORBIDDEN);
    let stolen = ask(Method::POST, "/api/devices/code").send().await.unwrap();
    assert_eq!(stolen.status(), StatusCode::FORBIDDEN, "no stranger opens a code");
    let forged = phone
        .post(format!("https://banks.example:{}/api/devices/code", at.port()))
        .header("x-forwarded-for", "127.0.0.1")
        .header("host", shop.base.trim_start_matches("http://"));
    assert_eq!(forged.send().await.unwrap().status(), StatusCode::FORBIDDEN);
    let (code, address) = code(&shop, "all").await;
    assert_eq!(address, "https://banks.example/pair");
    let sent = ask(Method::POST, "/api/pair")
        .header("origin", "https://banks.example")
        .json(&json!({"code": code, "name": "van phone"}))
        .send()
        .await
        .unwrap();
    assert_eq!(sent.status(), StatusCode::NO_CONTENT);
    let cookie = sent.headers()["set-cookie"].to_str().unwrap().to_owned();
    assert!(cookie.contains("; Secure") && cookie.contains("HttpOnly"), "{cookie}");
    let cookie = cookie.split(';').next().unwrap().to_owned();
    let list = ask(Method::GET, "/api/banks").header("cookie", &cookie).send().await.unwrap();
    assert_eq!(list.status(), StatusCode::OK);
    let elsewhere =
        ask(Method::POST, "/api/demo").header("cookie", &cookie).header("origin", "https://evil.example");
    assert_eq!(elsewhere.send().await.unwrap().status(), StatusCode::FORBIDDEN);
    let desk = ask(Method::POST, "/api/devices/code").header("cookie", &cookie).send().await.unwrap();
    assert_eq!(desk.status(), StatusCode::FORBIDDEN, "a paired phone is a phone");
}
