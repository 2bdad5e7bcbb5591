//! Weights of the diagnosis: what ships is read in the library, a house takes one otherwise, and its bank says so.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

#[tokio::test(flavor = "multi_thread")]
async fn a_house_takes_a_weight_otherwise_and_one_that_cannot_be_is_told_beside_it() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go("/library").await;
    page.see_in("Weights of the diagnosis", "a shorted cell 9").await;
    page.press("Copy Close watch").await;
    page.fill("Name of the set", "Harbour house").await;
    page.press("Take a weight otherwise").await;
    page.press("Keep this set").await;
    page.see("Choose what is seen, and what it speaks for or against.").await;
    page.choose("Seen", "tops wet").await;
    page.choose("Speaks for or against", "dirty tops or a high self-discharge").await;
    page.fill("Points", "12").await;
    page.press("Keep this set").await;
    page.see("12 is no weight; accepted is -9 to 9 points").await;
    assert_eq!(page.value("Points").await, "12", "nothing is lost");
    page.fill("Points", "2").await;
    page.press("Keep this set").await;
    page.choose("Weights of", "Harbour house").await;
    page.see_in("Weights of the diagnosis", "dirty tops or a high self-discharge 2 (ships 5)").await;
    assert_eq!(page.axe(&[]).await, "");
    page.close().await;
    let page = Page::open(&shop, PHONE).await;
    page.go("/library").await;
    page.choose("Weights of", "Harbour house").await;
    page.see_in("Weights of the diagnosis", "dirty tops or a high self-discharge 2 (ships 5)").await;
    assert!(page.fits().await);
    page.close().await;
}
