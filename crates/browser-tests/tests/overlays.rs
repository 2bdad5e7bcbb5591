//! What lies over a page or is offered after a press: drawers, words explained, what asks first, and Undo.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

const ENTER: &str = "\u{e007}";
const ESCAPE: &str = "\u{e00c}";

#[tokio::test(flavor = "multi_thread")]
async fn what_a_visit_took_back_or_took_out_comes_again_with_undo() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go(&shop.bank("Larch Point repeater").await).await;
    page.press("Begin a visit").await;
    page.see("Make safe before anything is touched").await;
    let picture = shop.folder.path().join("shot.png");
    page.snapshot(&picture).await;
    page.upload(picture.to_str().unwrap()).await;
    page.pictured("the bank, TA").await;
    page.press("Photograph of the bank").await;
    page.press("Take it out").await;
    page.see("The photograph is taken out.").await;
    page.until_count("button", "Photograph of the bank", 0).await;
    page.press("Undo").await;
    page.pictured("the bank, TA").await;

    page.press("Close up").await;
    page.fill("A note", "the gate sticks").await;
    page.press("Keep the note").await;
    page.until_count("button", "Take back", 1).await;
    page.press("Take back").await;
    page.see("The note is taken back.").await;
    page.until_count("button", "Take back", 0).await;
    page.press("Undo").await;
    page.until_count("button", "Take back", 1).await;
    page.see("the gate sticks").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_run_is_thrown_away_when_that_is_meant() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    let bank = shop.bank("Kestrel Dome").await;
    page.go(&format!("{bank}/equalize")).await;
    page.fill("Typed into the charger", "62.8").await;
    page.press("Prepare the run").await;
    page.see("See to these before").await;
    page.press("Not today: throw this run away").await;
    page.see("Throw this run away? Its checks and readings are lost.").await;
    page.press("Keep it").await;
    page.gone("tooltip").await;
    assert!(page.path().await.starts_with("/runs/"));
    page.press("Not today: throw this run away").await;
    page.press("Throw it away").await;
    page.see("What the houses say").await;
    assert_eq!(page.path().await, format!("{bank}/equalize"));
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_kept_plan_is_thrown_away_when_that_is_meant_and_never_of_an_archived_bank() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    let bank = shop.bank("Dipper").await;
    page.go(&format!("{bank}/plan?planner=storage")).await;
    for name in ["winter at the quay", "winter, carried indoors"] {
        page.press("Keep this plan").await;
        page.fill("Name of the plan", name).await;
        page.press_in("Keep this plan", "Keep this plan").await;
        page.see_in("Kept plans", name).await;
    }
    page.until_count("button", "Throw away", 2).await;
    page.press_in("Kept plans", "Throw away").await;
    page.see("Throw “winter, carried indoors” away?").await;
    page.press("Throw it away").await;
    page.until_count("button", "Throw away", 1).await;
    page.see_in("Kept plans", "winter at the quay").await;
    page.press("More").await;
    page.press("Archive").await;
    page.see("Dipper is archived.").await;
    page.go(&format!("{bank}/plan?planner=storage")).await;
    page.see_in("Kept plans", "winter at the quay").await;
    page.until_count("button", "Throw away", 0).await;
    page.until_count("button", "Keep this plan", 0).await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn on_the_phone_lists_are_narrowed_in_a_drawer_that_gives_the_focus_back() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, PHONE).await;
    page.wear("light").await;
    page.go("/banks").await;
    page.see("Kestrel Dome").await;
    page.focus("Narrow and sort").await;
    page.keys(ENTER).await;
    page.within("drawer").await;
    page.choose("Condition", "steady").await;
    page.see("Show 2 banks").await;
    page.press("Show 2 banks").await;
    page.gone("dialog").await;
    page.focused("Narrow and sort").await;
    page.until_within("Banks on the books", "heading", 2).await;

    page.go("/today").await;
    page.see("Which banks").await;
    let all = page.count("button", "Put off: ").await;
    let region = shop.get("/api/today").await["regions"][0].as_str().unwrap().to_owned();
    page.focus("Which banks").await;
    page.keys(ENTER).await;
    page.within("drawer").await;
    page.choose("Region", &region).await;
    page.see("Which banks, narrowed by 1").await;
    page.keys(ESCAPE).await;
    page.gone("dialog").await;
    page.focused("Which banks").await;
    assert!(page.count("button", "Put off: ").await < all);
    assert!(page.fits().await);
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_round_is_left_on_the_phone_and_what_was_read_is_there_again() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, PHONE).await;
    page.wear("light").await;
    let bank = shop.bank("Marginalia").await;
    page.go(&format!("{bank}/round")).await;
    page.fill("Hours since charge", "26").await;
    page.fill("Hours since a heavy load", "25").await;
    page.fill("Electrolyte", "20").await;
    page.press("Begin the round").await;
    page.until_value("Cell", "A1-1").await;
    for digit in ["2", "6", "5"] {
        page.press(digit).await;
    }
    page.press("Next").await;
    page.until_value("Cell", "A1-2").await;
    page.press("Leave the round").await;
    page.see("Every reading shown is saved.").await;
    page.press("Stay").await;
    page.gone("dialog").await;
    page.press("Leave the round").await;
    page.press("Leave, resume later").await;
    page.see("Resume round").await;
    page.press("Resume round").await;
    page.until_value("Cell", "A1-2").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_rule_is_explained_where_it_is_named_and_put_away_by_esc() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go("/today").await;
    page.see("Harm if left").await;
    let today = shop.get("/api/today").await;
    let rule = today["items"][0]["said"]["rule"].as_str().unwrap().to_owned();
    page.focus("by which rule").await;
    page.see(&rule).await;
    page.keys(ESCAPE).await;
    page.gone("tooltip").await;
    page.focused("by which rule").await;
    // the head of a table says what its unit means
    page.go("/library").await;
    page.rows("Battery models").await;
    page.rows("House rules side by side").await;
    page.focus("C20, Ah").await;
    page.see("discharged evenly over twenty hours").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_first_page_shows_what_a_bank_will_look_like() {
    let shop = Shop::open().await;
    let page = Page::open(&shop, PHONE).await;
    page.wear("light").await;
    page.go("/today").await;
    page.see("No bank yet.").await;
    page.pictured("The plan of a bank from above").await;
    assert!(page.fits().await);
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_in_the_van_is_remembered_for_the_day() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go("/today").await;
    page.press_in("Load the van", "Eyewash").await;
    page.until_is("checkbox", "Eyewash", "checked", true).await;
    page.reload().await;
    page.until_is("checkbox", "Eyewash", "checked", true).await;
    page.until_is("checkbox", "Bicarbonate", "checked", false).await;
    page.close().await;
}
