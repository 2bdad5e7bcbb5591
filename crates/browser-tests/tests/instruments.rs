//! Instruments held against what they should show, resistances of a flooded bank, and within what a bank is charged.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

#[tokio::test(flavor = "multi_thread")]
async fn the_advice_to_check_an_instrument_leads_to_where_it_is_checked() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    let bank = shop.bank("High Pasture hut").await;
    page.go(&bank).await;
    page.press("Begin a visit").await;
    page.see("Make safe before anything is touched").await;
    let visit = page.path().await;
    page.go(&format!("{visit}?step=round")).await;
    page.press("The instrument in distilled water").await;
    page.fill("It shows in distilled water", "1.265").await;
    page.press("Keep the check").await;
    page.faulty("It shows in distilled water").await;
    assert_eq!(page.value("It shows in distilled water").await, "1.265", "nothing is lost");
    // so far off it may be acid that was left in it
    page.fill("It shows in distilled water", "1.031").await;
    page.press("Keep the check").await;
    page.see("Was acid left in it?").await;
    page.press("Read it again").await;
    page.fill("It shows in distilled water", "1.008").await;
    page.press("Keep the check").await;
    page.see("reads 8 points high in distilled water").await;
    assert_eq!(page.axe(&[]).await, "");

    page.go(&format!("{visit}?step=rest_check")).await;
    page.press("The meter beside another").await;
    page.fill("This meter shows, V", "6.31").await;
    page.fill("The other meter shows, V", "0").await;
    page.press("Keep the check").await;
    page.faulty("The other meter shows, V").await;
    page.fill("The other meter shows, V", "6.32").await;
    page.press("Keep the check").await;
    page.see("The voltmeter is right beside the other meter").await;
    // resistances of a flooded bank are read where somebody wants to know
    assert_eq!(page.count("textbox", "Resistance or conductance").await, 0);
    page.press("Read resistance and case too").await;
    page.fill("Resistance or conductance", "2.1").await;
    page.press("Keep and go on").await;
    page.see_in("Batteries one by one", "2.10 m\u{3a9}").await;
    page.close().await;

    let page = Page::open(&shop, PHONE).await;
    page.go(&format!("{visit}?step=round")).await;
    page.press("The instrument in distilled water").await;
    page.see("reads 8 points high in distilled water").await;
    assert!(page.fits().await);
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_sealed_bank_says_within_what_it_is_charged_and_what_is_never_done() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    let bank = shop.bank("Dipper").await;
    page.go(&format!("{bank}/equipment")).await;
    page.headed("Charged within").await;
    page.see("28.8 V at 25 °C").await;
    page.see("locked until the maker").await;
    page.see("Opened or filled").await;
    page.go(&format!("{bank}/diagnosis")).await;
    page.see("over its first value").await;
    let chart =
        "return !!document.querySelector('[role=img][aria-label^=\"Resistance in per cent over its own\"]')";
    page.until("the resistances are drawn", chart).await;
    page.close().await;
}
