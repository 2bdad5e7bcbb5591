//! What is due when: put off with a reason, reminded of, loaded for.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

#[tokio::test(flavor = "multi_thread")]
async fn an_item_is_put_off_with_a_reason_and_a_reminder_is_kept_and_done() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go("/").await;
    page.see("Harm if left").await;
    assert_eq!(page.path().await, "/today");
    assert!(page.names("heading", "Harm if left").await[0].contains("Arboretum tram 4"));

    // a fill may be put off, but not without a reason nor into the past
    page.press_in("", "Put off: ").await;
    page.fill("Put off until", "2026-10-01").await;
    page.fill("Why", "").await;
    page.enter().await;
    page.faulty("Why").await;
    // what is no day of any calendar is said at its field, and stays to be mended
    page.fill("Put off until", "31/2").await;
    page.fill("Why", "later").await;
    page.enter().await;
    page.see("“31/2” is no day. Type it as 2026-10-20, or pick it.").await;
    page.faulty("Put off until").await;
    page.fill("Put off until", "2026-10-20").await;
    page.fill("Why", "no generator until then").await;
    page.enter().await;
    page.see("no generator until then").await;

    page.press("Add a reminder").await;
    page.choose("Bank", "Larch Point repeater").await;
    page.fill("Day", "2026-10-12").await;
    page.press("Keep the reminder").await;
    page.faulty("What").await;
    page.fill("What", "bring the spare fuse").await;
    page.press("Keep the reminder").await;
    page.see("Bring the spare fuse").await;
    page.press("Done: ").await;
    page.until("it is gone", "return !document.body.innerText.includes('Bring the spare fuse')").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_van_is_loaded_for_chosen_visits_and_the_list_is_narrowed() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go("/today").await;
    page.see("Load the van").await;
    for site in ["Arboretum tram 4", "Dipper", "High Pasture hut", "Kestrel Dome", "Marginalia"] {
        page.press_in("Visits to load for", site).await;
    }
    page.see("Choose the visits to load for").await;
    page.press_in("Visits to load for", "Dipper").await;
    page.see("for Dipper").await;
    // a sealed bank takes no water
    page.see("no fill is forecast for these visits").await;
    page.press_in("Visits to load for", "Kestrel Dome").await;
    page.see("for Dipper, Kestrel Dome").await;
    let today = shop.get("/api/today").await;
    let region = today["regions"][0].as_str().unwrap().to_owned();
    let all = page.count("button", "Put off: ").await;
    page.choose("Region", &region).await;
    let today = shop.get(&format!("/api/today?region={}", region.replace(' ', "%20"))).await;
    let fewer = i64::try_from(today["items"].as_array().unwrap().len()).unwrap();
    assert!((1..all).contains(&fewer), "{fewer} of {all}");
    page.until_count("button", "Put off: ", fewer).await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn on_the_phone_the_van_opens_and_a_visit_begins_from_the_list() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, PHONE).await;
    page.wear("light").await;
    page.go("/today").await;
    page.press_in("", "Begin a visit: Kestrel Dome").await;
    page.see("Make safe before anything is touched").await;
    page.go("/today").await;
    page.see("Load the van:").await;
    page.press("Go on with the visit: Kestrel Dome").await;
    page.see("Make safe before anything is touched").await;
    page.go("/today").await;
    page.press("3.5").await;
    page.see("a quarter spare").await;
    assert!(page.fits().await, "today fits the phone");
    page.close().await;
}
