//! A phone is paired through a real proxy with TLS, in a browser; one that may do visits alone.
#![allow(clippy::unwrap_used, reason = "a test fails loudly")]

#[path = "../../server/tests/common/proxy.rs"]
mod reverse_proxy;

use browser_tests::{DESK, PHONE, Page, Shop};
use rainshadow::Settings;
use rainshadow::clock::Clock;
use reverse_proxy::{certificate, documented, nginx};
use std::net::TcpListener;

#[tokio::test(flavor = "multi_thread")]
async fn a_phone_pairs_through_the_documented_proxy_and_works_on_visits_alone() {
    let keys = tempfile::tempdir().unwrap();
    certificate(keys.path(), "banks.example");
    // a port that was free a moment ago, on a loopback address of the proxy's own
    let at = TcpListener::bind("127.0.0.2:0").unwrap().local_addr().unwrap();
    let public = format!("https://banks.example:{}", at.port());
    let clock = Clock::starting("2026-10-08T09:00:00Z".parse().unwrap());
    let address = public.parse().unwrap();
    let shop = Shop::with(tempfile::tempdir().unwrap(), clock, |settings| Settings {
        public_urls: vec![address],
        trusted_proxies: vec!["127.0.0.2".parse().unwrap()],
        ..settings
    })
    .await;
    let done = reqwest::Client::new().post(format!("{}/api/demo", shop.base())).send().await.unwrap();
    assert!(done.status().is_success());
    let configuration = keys.path().join("nginx.conf");
    let app = format!("127.0.0.1:{}", shop.port);
    std::fs::write(&configuration, documented(&app, &at.to_string(), keys.path())).unwrap();
    let _proxy = nginx(&configuration);

    let desk = Page::open(&shop, DESK).await;
    desk.go("/settings").await;
    desk.see("for visits alone").await;
    desk.press("for visits alone").await;
    desk.press("Pair a phone").await;
    desk.see(&format!("{public}/pair")).await;
    let code = desk.text("Code to type").await;

    let map = format!("--host-resolver-rules=MAP banks.example 127.0.0.2:{}", at.port());
    let phone = Page::told(&public, PHONE, &[&map, "--ignore-certificate-errors"]).await;
    // whoever is not paired lands where he can be
    phone.see("Pair this phone with the desk.").await;
    phone.fill("Code", "00000000").await;
    phone.press("Pair").await;
    phone.see("This is not the code on the desk").await;
    phone.fill("Code", &code).await;
    phone.fill("What this phone is called", "van phone").await;
    phone.press("Pair").await;
    phone.see("Kestrel Dome").await;
    assert_eq!(phone.path().await, "/today");
    phone.go("/settings").await;
    phone.see("van phone").await;
    phone.see("visits alone").await;
    phone.press("Pair a phone").await;
    phone.see("This is done on the machine that Rainshadow runs on.").await;

    // shut out on the desk, it is a stranger again
    desk.go("/settings").await;
    desk.press_in("Devices", "Shut out").await;
    desk.press("Shut it out").await;
    desk.see("shut out 2026-10-08").await;
    phone.go("/today").await;
    phone.see("Pair this phone with the desk.").await;
}
