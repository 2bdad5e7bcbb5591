//! Looking back: rounds of a bank, one cell through the years, a figure put right later, the list.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

#[tokio::test(flavor = "multi_thread")]
async fn rounds_stand_in_a_table_and_one_cell_against_the_median() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.press("Kestrel Dome").await;
    page.see("B5-2 is sinking").await;
    // the equalize of August did nothing for it, and the verdict says what comes next
    page.see("Equalize once more: cell B5-2 has sunk 36 points below the bank and did not answer").await;
    page.see("if it does not answer again, replace B5").await;
    page.press("History").await;
    let rounds = page.rows("Rounds of this bank").await;
    assert_eq!(rounds.len(), 13);
    let first = rounds[0].clone();
    // newest first, with condition, spread, median, lowest and where
    for part in ["7 Oct 2026", "act", "39", "1.258", "1.222", "B5-2"] {
        assert!(first.contains(part), "{part} in {first}");
    }
    // sorted by what is pressed, and narrowed to what is asked
    page.press_in("Rounds of this bank", "Spread, points").await;
    let rounds = page.rows("Rounds of this bank").await;
    assert!(rounds[0].contains("3 Aug 2025 steady 7 1.263"), "{rounds:?}");
    page.press_in("Rounds of this bank", "Spread, points").await;
    assert!(page.rows("Rounds of this bank").await[0].contains("7 Oct 2026"));
    page.press("Now").await;
    // rule and tolerance stand under the finding, source and certainty behind them
    page.see("RD-8, condition of a cell: limit 25 points (Maker first)").await;
    page.press("B5-2 is sinking").await;
    page.see("73 % charged").await;
    page.see_in("Corrected gravity of B5-2", "median").await;
    page.press("History").await;
    page.press_in("Rounds of this bank", "22 Jun 2025").await;
    page.see("round of 22 Jun 2025").await;
    page.press("To the bank").await;
    page.see("B5-2 is sinking").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_figure_in_question_is_put_right_after_the_round() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.press("Kestrel Dome").await;
    page.press("Show all").await;
    page.see("Read A2-3 again").await;
    page.press("History").await;
    page.press_in("Rounds of this bank", "7 Oct 2026").await;
    page.see("finished by").await;
    page.press("A2-3").await;
    page.see("A2-3: everything that was entered").await;
    page.fill("Another figure for A2-3", "12.65").await;
    page.see("looks like volts").await;
    page.fill("Another figure for A2-3", "270").await;
    page.see("The figure before stays on record").await;
    page.press("Put it right").await;
    page.until_told("button", "A2-3", "steady").await;
    page.see("replaced").await;
    page.press("To the bank").await;
    page.see("46 steady").await;
    page.press("Show all").await;
    page.see("Show fewer").await;
    assert!(
        !page.script("return document.body.innerText").await.as_str().unwrap().contains("Read A2-3 again")
    );
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_list_is_searched_filtered_and_sorted() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.see("3 banks ask for action.").await;
    let order = async || page.names("heading", "Banks on the books").await;
    let steady = ["High Pasture hut", "Larch Point repeater"];
    let watched = ["Marginalia"];
    // a battery that gave out first and a joint that has gone bad ask for as much as a cell that sinks
    let acting = ["Arboretum tram 4", "Dipper", "Kestrel Dome"];
    assert_eq!(order().await, [&acting[..], &watched[..], &steady[..]].concat());
    page.choose("Condition", "steady").await;
    assert_eq!(order().await, steady);
    page.choose("Condition", "watch").await;
    assert_eq!(order().await, watched);
    page.choose("Condition", "all").await;
    page.script("document.activeElement.blur()").await;
    page.keys("/").await;
    page.keys("lark").await;
    page.see("Nothing answers to that").await;
    page.keys("\u{e003}").await;
    page.keys("\u{e003}\u{e003}\u{e003}").await;
    page.keys("larch").await;
    page.until_within("Banks on the books", "heading", 1).await;
    page.enter().await;
    page.see("24 V flooded tubular").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_theme_and_the_way_keys_work_are_remembered() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.press("Shed light").await;
    page.until("it is dim", "return document.documentElement.dataset.theme === 'shed'").await;
    page.reload().await;
    page.until("it is still dim", "return document.documentElement.dataset.theme === 'shed'").await;
    page.press("Kestrel Dome").await;
    page.see("B5-2 is sinking").await;
    page.go("/settings").await;
    page.press("single-key shortcuts").await;
    page.see("Saved.").await;
    page.go("/banks").await;
    page.press("Kestrel Dome").await;
    page.see("B5-2 is sinking").await;
    // with single keys off, R does not leave the page
    page.keys("r").await;
    page.press("B5-2 is sinking").await;
    page.see("73 % charged").await;
    assert!(!page.path().await.ends_with("/round"));
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn on_the_phone_findings_follow_the_plan_one_string_at_a_time() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, PHONE).await;
    page.press("Kestrel Dome").await;
    page.see("B5-2 is sinking").await;
    // the string of the worst cell alone
    page.until_count("button", "B5-1", 1).await;
    page.until_count("button", "A1-1", 0).await;
    page.until_count("img", "Spread, points", 1).await;
    let (plan, findings) = (page.top("button", "B5-1").await, page.top("heading", "Findings").await);
    assert!(plan < findings && findings < page.top("img", "Spread, points").await);
    page.press("String A").await;
    page.until_count("button", "A1-1", 1).await;
    // a finding leads to its own string
    page.press("B5-2 is sinking").await;
    page.until_count("button", "B5-1", 1).await;
    assert!(page.fits().await);
    page.close().await;
}
