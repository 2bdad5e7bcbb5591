//! Visits for a job in the browser: from a plan into the visit, polarity with one bad input, the calendar.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

#[tokio::test(flavor = "multi_thread")]
async fn the_day_of_a_replacement_is_worked_through_as_a_visit() {
    let shop = Shop::with_demo().await;
    let tram = shop.bank("Arboretum tram 4").await;
    let page = Page::open(&shop, DESK).await;
    page.go(&format!("{tram}/plan?planner=replacement")).await;
    page.see("The day, in order").await;
    page.fill("The bank is, months", "6").await;
    // Its own tests say that little is left of it, so a whole bank is advised until somebody knows better.
    page.see("Replace the whole bank").await;
    page.fill("Its batteries last, years more", "4").await;
    page.see("Put a new battery in").await;
    page.press("Begin it as a visit").await;
    page.see("replacement, visit of").await;
    page.press("Replacement").await;
    page.see("10 lines, in this order").await;
    assert_eq!(page.axe(&[]).await, "");
    page.fill("Volts, with their sign", "-8.4").await;
    page.press("Keep and go on").await;
    page.see("A reversed battery is joined to nothing.").await;
    // kept so, nothing is joined until it is read again
    page.press("Keep it as it is").await;
    page.see_in("Polarity read", "reversed").await;
    page.press("Joined as photographed").await;
    page.see("A1 reads reversed: read it again").await;
    page.press("Wrong entry: A1, -8.40 V").await;
    page.fill("Volts, with their sign", "8.46").await;
    page.press("Keep and go on").await;
    page.see_in("Polarity read", "8.46 V").await;
    page.fill("Volts, with their sign", "8,4x").await;
    page.press("Keep and go on").await;
    page.faulty("Volts, with their sign").await;
    page.press("Loads off, then taken apart").await;
    page.see("1 of 10 lines done").await;
    page.press("None here: Old ones upright").await;
    page.see("no old one left here").await;
    page.press("Round: First round with the new ones").await;
    page.until("the round is shown", "return location.search.includes('step=round')").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_spring_of_the_hut_stands_in_the_calendar_and_begins_there() {
    let shop = Shop::with_demo().await;
    let hut = shop.bank("High Pasture hut").await;
    let page = Page::open(&shop, PHONE).await;
    page.go(&format!("{hut}/plan?planner=storage")).await;
    page.see("Before it is left").await;
    page.press("Put these days into the calendar").await;
    page.see("days stand in what is due").await;
    let all: serde_json::Value = shop.get("/api/today").await;
    let jobs: Vec<&str> =
        all["items"].as_array().unwrap().iter().filter_map(|own| own["job"].as_str()).collect();
    assert!(jobs.contains(&"storage_preparation"), "{jobs:?}");
    // from the menu of the bank the spring check begins, whatever the calendar has
    page.go(&hut).await;
    page.press("More").await;
    page.press("Spring check").await;
    page.see("spring check, visit of").await;
    page.press("Spring check").await;
    page.see("12 lines, in this order").await;
    assert!(page.fits().await);
    page.press("Put it down for tomorrow").await;
    page.see("1 of 12 lines done").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn what_a_storage_preparation_wrote_down_is_not_asked_for_again_at_closing() {
    let shop = Shop::with_demo().await;
    let hut = shop.bank("High Pasture hut").await;
    let page = Page::open(&shop, DESK).await;
    page.go(&hut).await;
    page.press("More").await;
    page.press("Storage preparation").await;
    page.see("storage preparation, visit of").await;
    let visit = page.path().await;
    page.go(&format!("{visit}?step=close_up")).await;
    page.until_is("radio", "In storage", "checked", true).await;
    page.see("10 things to see to before it is stored.").await;
    page.until_is("checkbox", "Charged full before it is stored", "disabled", false).await;
    page.go(&format!("{visit}?step=job")).await;
    page.press("Charged full first, until the current is down at its tail").await;
    page.see("1 of 8 lines done").await;
    page.go(&format!("{visit}?step=close_up")).await;
    page.see("9 things to see to before it is stored.").await;
    // answered, signed, and taken back only where it was written
    page.see("written down already, ").await;
    page.until_is("checkbox", "Charged full before it is stored", "checked", true).await;
    page.until_is("checkbox", "Charged full before it is stored", "disabled", true).await;
    page.press("charged full").await;
    page.see("10 things to see to before it is stored.").await;
    page.close().await;
}
