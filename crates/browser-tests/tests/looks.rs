//! Every view in both themes: axe finds nothing, nothing is wider than the page.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

async fn views(shop: &Shop) -> Vec<String> {
    let banks = shop.get("/api/banks").await;
    let kestrel = banks[0]["id"].as_str().unwrap().to_owned();
    let page = shop.get(&format!("/api/banks/{kestrel}")).await;
    let round = page["round"].as_str().unwrap().to_owned();
    vec![
        "/banks".into(),
        "/banks/new".into(),
        format!("/banks/{kestrel}?cell=B5-2"),
        format!("/banks/{kestrel}/round"),
        format!("/banks/{kestrel}/notebook"),
        format!("/rounds/{round}"),
        "/shelf".into(),
    ]
}

async fn look(theme: &str, size: (u32, u32)) {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, size).await;
    page.script(&format!(
        "localStorage.setItem('rainshadow.me', JSON.stringify({{ theme: '{theme}', initials: 'TA' }}))"
    ))
    .await;
    let mut faults = Vec::new();
    for path in views(&shop).await {
        page.go(&path).await;
        page.until(
            "the view is there",
            "return !!document.querySelector('h1') && !document.querySelector('.loading')",
        )
        .await;
        let found = page.axe(&[]).await;
        if !found.is_empty() {
            faults.push(format!("{path} in {theme}:\n{found}"));
        }
        if !page.fits().await {
            faults.push(format!("{path} is wider than {size:?}"));
        }
    }
    assert!(faults.is_empty(), "{}", faults.join("\n"));
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn axe_finds_nothing_on_the_desk_by_day() {
    look("light", DESK).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn axe_finds_nothing_on_the_desk_in_the_shed() {
    look("shed", DESK).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn axe_finds_nothing_on_the_phone() {
    look("light", PHONE).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn no_request_leaves_the_machine_and_units_are_remembered() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.press("Kestrel Dome").await;
    page.see("16 °C").await;
    page.go("/shelf").await;
    page.choose("Temperature", "°F").await;
    page.see("Saved.").await;
    page.go("/banks").await;
    page.press("Kestrel Dome").await;
    page.see("60.8 °F").await;
    page.see("corrected to 77 °F").await;
    let elsewhere = page
        .script("return performance.getEntriesByType('resource').map(r => r.name).filter(n => !n.startsWith(location.origin))")
        .await;
    assert_eq!(elsewhere.as_array().map(Vec::len), Some(0), "{elsewhere}");
    page.close().await;
}
