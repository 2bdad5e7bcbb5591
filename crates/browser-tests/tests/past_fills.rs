//! The water of three years, typed from a log in one go.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, Page, Shop};

#[tokio::test(flavor = "multi_thread")]
async fn fills_of_earlier_years_are_typed_one_a_line() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go(&format!("{}/history", shop.bank("Larch Point repeater").await)).await;
    page.press("Fills of earlier years, from a log").await;
    page.fill("Fill 1, day", "2022-06-12").await;
    page.fill("Water, L", "2.4").await;
    page.fill("Fill 2, day", "2031-01-01").await;
    page.press("Keep these fills").await;
    // the first is kept; the second is named, and stays
    page.see("1 kept.").await;
    page.see("A fill has an amount; type what went in.").await;
    page.fill("Water, L", "2.6").await;
    page.press("Keep these fills").await;
    page.see("lies in the future").await;
    page.fill("Fill 1, day", "2022-10-09").await;
    page.press("Keep these fills").await;
    page.see("12 Jun 2022").await;
    page.see("9 Oct 2022").await;
    assert_eq!(page.axe(&[]).await, "");
    page.close().await;
}
