//! Volts by state, water as it was added, rechecks, short visits and visits from a sheet, as a technician types them.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

/// A step of a visit that has just begun; the address of the visit.
async fn begin(page: &Page, bank: &str, press: &str, step: &str) -> String {
    page.go(bank).await;
    page.press(press).await;
    page.see("Make safe before anything is touched").await;
    let visit = page.path().await;
    page.go(&format!("{visit}?step={step}")).await;
    visit
}

#[tokio::test(flavor = "multi_thread")]
async fn volts_by_state_are_typed_a_recheck_is_due_and_opens_a_short_visit() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    let bank = shop.bank("High Pasture hut").await;
    let visit = begin(&page, &bank, "Begin a visit", "rest_check").await;
    page.press("Volts in another state").await;
    page.fill("Volts", "284").await;
    page.fill("What charges or draws", "solar").await;
    page.press("Keep these volts").await;
    page.faulty("Volts").await;
    assert_eq!(page.value("What charges or draws").await, "solar", "nothing else is lost");
    page.fill("Volts", "28.4").await;
    page.press("Keep these volts").await;
    page.see_in("Volts by state", "On charge (solar), the bank").await;
    page.choose("State", "At rest").await;
    page.fill("Volts", "25.3").await;
    page.fill("Hours at rest", "1").await;
    page.press("Keep these volts").await;
    page.see_in("Volts by state", "At rest for 1 hour").await;
    // more than a load leaves is asked about, and can be kept
    page.choose("State", "With a small load").await;
    page.fill("Volts", "28").await;
    page.press("Keep these volts").await;
    page.see("Read it again?").await;
    page.press("Keep it as it is").await;
    page.see_in("Volts by state", "28.00 V").await;
    page.press("Wrong entry: 28.00 V").await;
    page.see("The reading is taken back.").await;

    page.go(&format!("{visit}?step=close_up")).await;
    page.see("The volts were not settled").await;
    page.press("Put it on the list: Read the volts again").await;
    page.until_count("button", "Not needed: Read the volts again", 1).await;
    page.press("Close the visit").await;
    page.press("Close all the same").await;
    page.see("This visit is closed.").await;

    page.go(&bank).await;
    page.press("Begin a short visit: Read the volts again").await;
    page.see("A short visit: rest check alone.").await;
    page.see("what is read before that day does not answer it").await;
    page.until_count("button", "Look over", 0).await;
    page.press("Make it a whole visit").await;
    page.see("It is a whole visit now.").await;
    page.until_count("button", "Look over", 1).await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn water_is_noted_as_it_was_added_on_the_phone() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, PHONE).await;
    page.wear("light").await;
    let visit = begin(&page, &shop.bank("High Pasture hut").await, "Visit", "water").await;
    page.see("Water added").await;
    page.choose("Amount is", "not measured").await;
    page.choose("Poured with", "watering kit").await;
    page.choose("Flow indicator", "stopped").await;
    page.press("Note the water").await;
    page.see("to the mark, not measured, by watering kit, the flow indicator stopped").await;
    assert!(page.fits().await);
    page.choose("Amount is", "estimated").await;
    page.choose("Poured with", "jug").await;
    page.choose("Unit of the amount", "US cups").await;
    page.press("Note the water").await;
    page.faulty("Amount").await;
    page.fill("Amount", "3").await;
    page.press("Note the water").await;
    page.see("about 710 mL to the mark, by jug (3 US cups)").await;
    page.press("Spilled, overfilled or drawn off").await;
    page.fill("What was done about it", "soda").await;
    page.press("Note it").await;
    page.see("Electrolyte spilled at the bank (soda)").await;
    assert!(page.fits().await);
    let report = shop.text(&format!("/api{visit}/report")).await;
    for said in [
        "About 710 mL and more of distilled water added up to the mark, by jug and watering kit; a part of it was not measured",
        "Electrolyte spilled at the bank (soda)",
    ] {
        assert!(report.contains(said), "{said}");
    }
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_visit_of_an_earlier_day_is_entered_from_its_sheet() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    let bank = shop.bank("High Pasture hut").await;
    page.go(&format!("{bank}/history")).await;
    page.fill("A visit of an earlier day, from a sheet", "2027-01-01").await;
    page.press("Enter it").await;
    page.see("lies in the future").await;
    page.fill("A visit of an earlier day, from a sheet", "2026-09-20").await;
    page.press("Enter it").await;
    page.see("Entered later: what stands here is of 20 Sep 2026").await;
    let visit = page.path().await;
    page.go(&format!("{visit}?step=close_up")).await;
    page.fill("A note", "read by lamp light").await;
    page.press("Keep the note").await;
    page.see("of 20 Sep 2026, written down on").await;
    let report = shop.text(&format!("/api{visit}/report")).await;
    assert!(report.contains("visit of 20 Sep 2026 by TA, written down on "), "{report}");
    page.close().await;
}
