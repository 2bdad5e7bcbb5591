//! A battery is replaced and put back, a bank chooses for itself, a set is changed: as the desk does it.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, Page, Shop};

#[tokio::test(flavor = "multi_thread")]
async fn a_battery_is_replaced_and_the_change_is_undone() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.press("Kestrel Dome").await;
    page.see("B5-2 is sinking").await;
    page.press("More").await;
    page.press("Replace or move a battery").await;
    page.choose("Battery", "B5").await;
    page.fill("Day", "2020-01-01").await;
    page.fill("Why", "a cell was sinking").await;
    page.press("Keep the change").await;
    page.faulty("Day").await;
    page.fill("Day", "31/2/2026").await;
    page.press("Keep the change").await;
    page.see("“31/2/2026” is no day. Type it as 2026-10-20, or pick it.").await;
    page.faulty("Day").await;
    page.fill("Day", "2026-10-08").await;
    page.fill("Serial of the one that came", "KD-17").await;
    page.fill("Why", "a cell was sinking").await;
    page.choose("The old one went", "to the shelf, to be used again").await;
    page.press("Keep the change").await;
    // the house lets a new one in up to a year only: asked about, and kept
    page.see("A new battery is pulled down by its old mates").await;
    page.press("A new one all the same").await;
    page.press("Keep the change").await;
    page.see("The old one went to the shelf").await;
    page.see("a cell was sinking").await;
    page.see("KD-17").await;
    page.press("Now").await;
    page.see("B5 came on 8 Oct 2026, after these readings").await;

    // the one that was taken out goes into another bank as a stop-gap
    page.go("/banks").await;
    page.press("Marginalia").await;
    page.press("More").await;
    page.press("Replace or move a battery").await;
    page.choose("Battery", "B2").await;
    page.choose("What came in", "from Kestrel Dome B5, out 8 Oct 2026").await;
    page.see("Another model than this bank’s").await;
    page.fill("Day", "2026-10-01").await;
    page.fill("Why", "stop-gap").await;
    page.press("Keep the change").await;
    page.see("stood in Kestrel Dome B5 until 8 Oct 2026").await;
    page.fill("Day", "2026-10-08").await;
    page.press("Keep the change").await;
    page.see("with the one from Kestrel Dome B5").await;
    page.see("before in Kestrel Dome B5").await;
    page.press_in("Battery changes", "Undo").await;
    page.see("undone by TA").await;

    page.go("/banks").await;
    page.press("Kestrel Dome").await;
    page.press("Batteries").await;
    page.press_in("Battery changes", "Undo").await;
    page.see("undone by TA").await;
    page.press("Now").await;
    page.see("B5-2 is sinking").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bank_takes_one_choice_otherwise_and_a_set_of_ones_own_is_made() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.press("Kestrel Dome").await;
    page.see("B5-2 is sinking").await;
    page.press("More").await;
    page.press("Choices of its own").await;
    page.fill("Spread: watch", "many").await;
    page.press("Judge by these").await;
    page.see("“many” is not a number").await;
    page.fill("Spread: watch", "200").await;
    page.press("Judge by these").await;
    page.see("accepted is 3 to 100 points").await;
    page.fill("Spread: watch", "12").await;
    page.press("Judge by these").await;
    page.see("own choices").await;

    page.go("/library").await;
    page.press("Copy Light touch").await;
    page.fill("Name of the set", "Coach winters").await;
    page.fill("Water check at the latest", "1").await;
    page.press("Keep this set").await;
    page.see("accepted is 3 to 365 days").await;
    page.faulty("Water check at the latest").await;
    page.fill("Water check at the latest", "45").await;
    page.press("Keep this set").await;
    page.see("Coach winters").await;
    page.close().await;
}
