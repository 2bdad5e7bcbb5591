//! The diagnosis of a bank as a technician reads it: what speaks for and against, and the measurement it asks for.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

#[tokio::test(flavor = "multi_thread")]
async fn a_bank_is_weighed_and_the_next_measurement_begins_from_there() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    let bank = shop.bank("Arboretum tram 4").await;
    page.go(&bank).await;
    page.press("Diagnosis").await;
    page.see("a weak cell in A5").await;
    page.see("groups of evidence: gravity, volts, capacity and sight").await;
    page.see_in("Speaks for a weak cell in A5", "one battery gives out before the others").await;
    page.see_in("Speaks for worn out", "from one timed discharge to the next it falls").await;
    // the years are drawn with what they come to, and no band before five tests
    let chart =
        "return !!document.querySelector('[role=img][aria-label^=\"Capacity in per cent of the rating\"]')";
    page.until("the capacity is drawn", chart).await;
    page.see("A range is told from five tests on").await;
    assert_eq!(page.axe(&[]).await, "", "the page can be read by everybody");
    page.see_in("What to measure next", "Measure next: read the resistance of every battery.").await;
    page.keys("m").await;
    page.see("A short visit: rest check alone").await;
    page.see("By all that is on record").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn on_the_phone_it_fits_and_a_bank_that_is_not_there_is_said_so() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, PHONE).await;
    let bank = shop.bank("Dipper").await;
    page.go(&format!("{bank}/diagnosis")).await;
    page.see("Possible: a weak cell in B2, or a shorted cell in B2, or a bad joint or open link.").await;
    page.see_in("What to measure next", "Measure next: read the volts at rest, battery by battery.").await;
    page.see("No timed discharge is on record").await;
    assert!(page.fits().await, "nothing lies beyond the edge");
    page.go("/banks/01900000-0000-7000-8000-000000000000/diagnosis").await;
    page.see("Try again").await;
    page.close().await;
}
