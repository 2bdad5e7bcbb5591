//! From nothing to a bank on the page.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, Page, Shop};

#[tokio::test(flavor = "multi_thread")]
async fn a_first_bank_is_described_and_one_that_cannot_be_is_refused() {
    let shop = Shop::open().await;
    let page = Page::open(&shop, DESK).await;
    page.see("No bank yet").await;
    page.press("Describe a bank").await;
    page.fill("Site", "Arboretum tram 4").await;
    page.choose("Battery model", "Flooded 8 V 170 Ah").await;
    page.fill("Batteries in series", "5").await;
    page.fill("Strings in parallel", "1").await;
    page.see("5 batteries of 8 V in series make 40 V, not 48 V: 48 V needs 6 in series").await;
    page.fill("Batteries in series", "six").await;
    page.see("“six” is not a whole number").await;
    page.fill("Batteries in series", "6").await;
    page.fill("Rows in a string", "2").await;
    page.see("48 V flooded, 6 eight-volt batteries in one string, 170 Ah each").await;
    page.see("24 cells").await;
    page.fill("In service since", "last year").await;
    page.press("Put this bank on the page").await;
    page.see("accepted is 2021, 2021-05, 2021-05-03, or nothing").await;
    page.fill("In service since", "2022").await;
    page.press("Put this bank on the page").await;
    page.see("No round yet").await;
    page.until(
        "every cell is there by its address",
        "return document.querySelectorAll('[data-cell]').length === 24",
    )
    .await;
    // reachable by keyboard, each cell by its address
    page.script("document.querySelector('[data-cell=\"A1-1\"]').focus()").await;
    page.keys("\u{e014}").await;
    page.until("arrow goes on", "return document.activeElement.getAttribute('aria-label') === 'A1-2'").await;
    assert!(page.fits().await);
    page.go("/banks").await;
    page.keys("/").await;
    page.keys("a4-2").await;
    page.see("A4-2").await;
    page.enter().await;
    page.see("No judged reading of this cell yet").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bank_is_archived_and_brought_back() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.press("Larch Point repeater").await;
    page.see("The bank is even").await;
    page.press("More").await;
    page.press("Archive").await;
    page.see("One bank asks for action: Kestrel Dome").await;
    page.until("it is gone", "return !document.querySelector('.banks').innerText.includes('Larch Point')")
        .await;
    page.press("archived").await;
    page.see("Larch Point repeater").await;
    page.press("Restore").await;
    page.press("archived").await;
    page.see("Larch Point repeater").await;
    page.close().await;
}
