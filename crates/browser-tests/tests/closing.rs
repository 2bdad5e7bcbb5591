//! How a bank is left: into storage, on standby, with what is not there.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, Page, Shop};

#[tokio::test(flavor = "multi_thread")]
async fn the_closing_list_follows_how_the_bank_is_left() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go(&shop.bank("Kestrel Dome").await).await;
    page.press("Begin a visit").await;
    page.see("Make safe before anything is touched").await;
    let visit = page.path().await;
    page.go(&format!("{visit}?step=close_up")).await;
    page.until_is("radio", "In use", "checked", true).await;
    page.see("Disconnect switched on").await;
    page.press("In storage").await;
    page.see("Nobody has said yet when it is used again.").await;
    page.see("things to see to before it is stored.").await;
    page.until_count("checkbox", "Disconnect switched on", 0).await;
    page.press("On standby").await;
    page.press("None here: Float switch lifted").await;
    page.see("no float switch here").await;
    page.press("There is one: Float switch lifted").await;
    page.until_count("button", "None here: Float switch lifted", 1).await;
    assert_eq!(page.axe(&[]).await, "");
    page.close().await;
}
