//! Forms, menus, pickers and tables with the keyboard alone, on desk and phone; what goes wrong in the middle.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

const ESCAPE: &str = "\u{e00c}";
const TAB: &str = "\u{e004}";
const DOWN: &str = "\u{e015}";
const ENTER: &str = "\u{e007}";

#[tokio::test(flavor = "multi_thread")]
async fn a_bank_is_described_with_the_keyboard_alone_and_the_first_fault_gets_the_focus() {
    let shop = Shop::open().await;
    for size in [DESK, PHONE] {
        let page = Page::open(&shop, size).await;
        page.go("/banks/new").await;
        page.fill("Site", &format!("High Pasture hut {}", size.0)).await;
        page.choose("Battery model", "Flooded 6 V 370 Ah").await;
        page.choose("Time zone", "UTC").await;
        page.fill("First hard frost", "31/2").await;
        page.fill("In service since", "last year").await;
        page.keys(ENTER).await;
        page.see("Not kept yet; what was typed is still here.").await;
        page.faulty("First hard frost").await;
        page.focused("First hard frost").await;
        page.fill("First hard frost", "20 October").await;
        page.fill("In service since", "2021").await;
        page.keys(ENTER).await;
        page.see("No round yet").await;
        page.close().await;
    }
    let sites = shop.get("/api/sites").await;
    assert_eq!(sites[0]["first_frost"], "10-20", "said in words, sent as month and day: {sites}");
}

#[tokio::test(flavor = "multi_thread")]
async fn every_overlay_closes_with_escape_and_the_focus_is_back_where_it_was() {
    let shop = Shop::with_demo().await;
    let bank = shop.bank("Kestrel Dome").await;
    for size in [DESK, PHONE] {
        let page = Page::open(&shop, size).await;
        page.wear("light").await;
        page.go(&bank).await;
        page.see("is sinking").await;
        // the menu: opened, walked, left
        page.focus("More").await;
        page.keys(ENTER).await;
        page.focused("Volts alone").await;
        page.keys(DOWN).await;
        page.focused("Levels and water alone").await;
        page.keys(ESCAPE).await;
        page.focused("More").await;
        page.gone("menuitem").await;
        // a drawer from the menu
        page.keys(ENTER).await;
        page.focused("Volts alone").await;
        page.press("Choices of its own").await;
        page.see("What is left empty is as in its house rule set.").await;
        page.within("drawer").await;
        page.keys(ESCAPE).await;
        page.gone("dialog").await;
        page.focused("More").await;
        // the help of the keys
        page.keys("?").await;
        page.see("Single-key shortcuts").await;
        page.within("dialog").await;
        page.keys(ESCAPE).await;
        page.gone("dialog").await;
        page.focused("More").await;
        // a list and a calendar
        page.go(&format!("{bank}/batteries?change")).await;
        page.see("What happened").await;
        page.focus("What happened").await;
        page.keys(DOWN).await;
        page.until("the list is open", "return document.activeElement.ariaExpanded === 'true'").await;
        page.keys(ESCAPE).await;
        page.until("the list is shut", "return document.activeElement.ariaExpanded === 'false'").await;
        page.focused("What happened").await;
        page.focus("Pick: Day").await;
        page.keys(ENTER).await;
        // at the month of the day that the shop believes in, not of the machine
        page.until_count("gridcell", "2026-10-08", 1).await;
        page.keys(ESCAPE).await;
        page.focused("Pick: Day").await;
        page.close().await;
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn a_table_is_sorted_and_narrowed_with_the_keyboard() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.go("/library").await;
    let names = async || page.rows("Battery models").await;
    assert!(names().await[0].starts_with("Flooded 6 V 420 Ah"));
    page.focus("C20, Ah").await;
    page.keys(ENTER).await;
    assert!(names().await[0].starts_with("AGM 12 V 75 Ah"), "{:?}", names().await);
    page.keys(ENTER).await;
    assert!(names().await[0].starts_with("Flooded flat plate 2 V 500 Ah"), "{:?}", names().await);
    // the sets side by side: only where they differ
    let all = page.rows("House rules side by side").await.len();
    page.press("only where the sets differ").await;
    let fewer = page.rows("House rules side by side").await;
    assert!(fewer.len() < all && !fewer.is_empty());
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn several_banks_are_archived_at_once_and_brought_back() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.press("Pick several").await;
    page.press("Pick Dipper").await;
    page.press("Pick Marginalia").await;
    page.see("2 banks picked").await;
    page.press("Archive them").await;
    page.see("2 banks are archived.").await;
    page.see("4 banks").await;
    page.press("Undo").await;
    page.see("6 banks").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_server_that_goes_in_the_middle_of_a_form_loses_nothing_that_was_typed() {
    let mut shop = Shop::with_demo().await;
    let bank = shop.bank("Kestrel Dome").await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go(&format!("{bank}/charger")).await;
    page.press("Change").await;
    page.fill("Absorption, V", "59.2").await;
    page.go("/settings").await;
    page.see("Days are written").await;
    page.go(&format!("{bank}/batteries?change")).await;
    page.choose("Battery", "B5").await;
    page.fill("Day", "2026-10-08").await;
    page.fill("Why", "a cell was sinking").await;
    shop.kill();
    page.press("Keep the change").await;
    page.see("The server does not answer. What you typed is still on screen; try again.").await;
    assert_eq!(page.value("Why").await, "a cell was sinking");
    shop.restart().await;
    page.press("Keep the change").await;
    page.press("A new one all the same").await;
    page.press("Keep the change").await;
    page.see("B5 was replaced").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn two_tabs_put_one_bank_right_and_the_second_is_told_of_the_first() {
    let shop = Shop::with_demo().await;
    let bank = shop.bank("Kestrel Dome").await;
    let (first, second) = (Page::open(&shop, DESK).await, Page::open(&shop, DESK).await);
    for page in [&first, &second] {
        page.go(&format!("{bank}/edit")).await;
        page.see("How it stands").await;
    }
    first.fill("Behind the first row", "north wall").await;
    first.press("Keep it so").await;
    first.see("north wall").await;
    second.fill("Behind the first row", "south wall").await;
    second.press("Keep it so").await;
    second.see("changed").await;
    assert_eq!(second.value("Behind the first row").await, "south wall", "what was typed stays");
    first.close().await;
    second.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn days_follow_the_persons_choice_and_the_wire_does_not() {
    let shop = Shop::with_demo().await;
    let bank = shop.bank("Kestrel Dome").await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go("/settings").await;
    page.choose("Days are written", "20/10/2026").await;
    page.choose("Weeks begin on", "Sunday").await;
    page.see("Saved.").await;
    page.go("/today").await;
    page.press("Add a reminder").await;
    page.fill("Day", "12.10.2026").await;
    page.keys(TAB).await;
    page.until_value("Day", "12/10/2026").await;
    page.fill("What", "bring the spare fuse").await;
    page.press("Keep the reminder").await;
    page.see("Bring the spare fuse").await;
    let items = shop.get("/api/today").await;
    let kept = items["items"].as_array().unwrap().iter().find(|i| i["task"] == "reminder").unwrap().clone();
    assert_eq!(kept["date"], "2026-10-12", "{kept}");
    // a picker opens on the day that is there, its week on Sunday
    page.go(&format!("{bank}/batteries?change")).await;
    page.focus("Pick: Day").await;
    page.keys(ENTER).await;
    page.until(
        "weeks begin on Sunday",
        "return document.querySelector('.ant-picker-content th')?.innerText === 'Su'",
    )
    .await;
    page.close().await;
}

/// Holds the day of the server back until `letDayGo` is called.
const DAY_HELD_BACK: &str = "const ask = window.fetch; const held = new Promise(go => (window.letDayGo = go)); \
    window.fetch = async (...all) => { const url = String(all[0]?.url ?? all[0]); \
    if (!url.endsWith('/api/meta')) return ask(...all); await held; const answer = await ask(...all); window.dayCame = true; return answer; };";

#[tokio::test(flavor = "multi_thread")]
async fn a_picker_in_use_stays_when_the_day_comes_late() {
    let shop = Shop::with_demo().await;
    let bank = shop.bank("Kestrel Dome").await;
    let page = Page::open(&shop, DESK).await;
    page.watched_by(DAY_HELD_BACK).await;
    page.go(&format!("{bank}/batteries?change")).await;
    page.focus("Pick: Day").await;
    page.enter().await;
    let open = "return [...document.querySelectorAll('.ant-picker-dropdown')].some(e => e.checkVisibility())";
    page.until("the picker opens", open).await;
    page.script("letDayGo()").await;
    page.until("the day came", "return window.dayCame === true").await;
    page.script("return new Promise(done => setTimeout(() => setTimeout(() => done(true))))").await;
    assert_eq!(page.script(open).await, true, "the picker closed under the hand");
    page.focused("Pick: Day").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn ten_thousand_pasted_lines_are_checked_or_refused_in_words() {
    let shop = Shop::with_demo().await;
    let bank = shop.bank("Kestrel Dome").await;
    let page = Page::open(&shop, DESK).await;
    page.go(&format!("{bank}/notebook")).await;
    page.press("A CSV file").await;
    page.see("Or paste the table here").await;
    page.focus("Or paste the table here").await;
    page.script(
        "const field = document.activeElement; \
         field.value = 'cell,2020-01-05\\n' + Array.from({ length: 10000 }, (_, i) => `Z${i}-1,265`).join('\\n'); \
         field.dispatchEvent(new Event('input', { bubbles: true }))",
    )
    .await;
    page.press("Check").await;
    page.see("refused").await;
    page.see("more; mend these and check again").await;
    page.close().await;
}
