//! What is found on a visit, what is done about it and how it is left, as a technician writes it down.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};

/// The look-over of a visit that has just begun; the address of the visit.
async fn look_over(page: &Page, bank: &str, begin: &str) -> String {
    page.go(bank).await;
    page.press(begin).await;
    page.see("Make safe before anything is touched").await;
    let visit = page.path().await;
    page.go(&format!("{visit}?step=look_over")).await;
    page.see("Look before you measure").await;
    visit
}

async fn find(page: &Page, check: &str, battery: &str, what: &str, note: &str) {
    page.press(&format!("{check}: found something")).await;
    page.press_in("Place on the bank", battery).await;
    page.press_in("What was found", what).await;
    page.fill("In your words", note).await;
    page.press("Keep the finding").await;
    page.see(&format!("{battery}, {what}")).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn two_things_on_one_post_are_repaired_each_and_told_in_the_report() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    let visit = look_over(&page, &shop.bank("Kestrel Dome").await, "Begin a visit").await;
    find(&page, "Terminals", "A3", "white powder", "negative post").await;
    find(&page, "Terminals", "A3", "loose", "").await;
    // a torque that no wrench of the trade sets is refused at its field, and nothing else is lost
    page.press("Terminals A3, loose: what was done").await;
    page.press_in("What was done", "tightened").await;
    page.fill("Torque set", "900").await;
    page.fill("Part used", "new washer").await;
    page.press("Keep what was done").await;
    page.faulty("Torque set").await;
    assert_eq!(page.value("Part used").await, "new washer");
    page.fill("Torque set", "11").await;
    page.press("Keep what was done").await;
    page.see("tightened, torque 11 N·m (8.1 lbf·ft), new washer").await;
    page.press("Terminals A3, white powder: what was done").await;
    page.press_in("How it was left", "better, not yet right").await;
    page.press("Keep what was done").await;
    page.see("Left better, not yet right.").await;
    // what an earlier visit left open is put right here
    page.press("Terminals A6, from before: what was done").await;
    page.press_in("What was done", "remade").await;
    page.press("Keep what was done").await;
    page.see("Done: remade").await;
    let report = shop.text(&format!("/api{visit}/report")).await;
    for said in [
        "Battery A3, terminals: loose. Tightened, torque 11 N·m (8.1 lbf·ft), new washer. It was left in order.",
        "Battery A3, terminals: white powder. Negative post. Cleaned. It is better now, and not yet in order.",
        "Battery A6, terminals: green copper, from before. Remade. It was left in order.",
    ] {
        assert!(report.contains(said), "{said}");
    }
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_wrong_entry_is_taken_back_on_the_phone_and_comes_again_with_undo() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, PHONE).await;
    page.wear("light").await;
    let visit = look_over(&page, &shop.bank("Larch Point repeater").await, "Visit").await;
    find(&page, "Hold-down", "A2", "it moves", "").await;
    assert!(page.fits().await);
    page.press("Hold-down A2, it moves: wrong entry").await;
    page.see("is taken back").await;
    page.press("Undo").await;
    page.see("A2, it moves").await;
    page.press("Hold-down A2, it moves: what was done").await;
    page.press_in("What was done", "left as it is").await;
    page.fill("Why it was left", "no spanner").await;
    assert!(page.fits().await);
    page.press("Keep what was done").await;
    page.see("left as it is: no spanner").await;
    let report = shop.text(&format!("/api{visit}/report")).await;
    assert!(report.contains("Left as it is: no spanner. It was left as it was found."), "{report}");
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn what_a_bank_is_without_is_said_and_is_not_called_fine_with_the_rest() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    let bank = shop.bank("High Pasture hut").await;
    let visit = look_over(&page, &bank, "Begin a visit").await;
    page.press("Temperature sensor: none here").await;
    page.until_is("button", "Temperature sensor: none here", "pressed", true).await;
    page.press("Case: fine").await;
    page.see("Nothing found so far, 11 still to look at.").await;
    page.go(&format!("{visit}?step=close_up")).await;
    page.press("Close the visit").await;
    page.press("Close all the same").await;
    page.see("This visit is closed.").await;
    let next = look_over(&page, &bank, "Begin a visit").await;
    page.see("last time: none here").await;
    page.press("Case: fine").await;
    page.press("The other 12 are fine, I looked").await;
    page.see("Nothing found.").await;
    let report = shop.text(&format!("/api{next}/report")).await;
    assert!(report.contains("; none here: temperature sensor"), "{report}");
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_model_of_ones_own_is_put_right_in_the_library() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go("/library").await;
    page.press("Copy Flooded 6 V 225 Ah, cart size").await;
    page.fill("Name on the case", "Own cart battery").await;
    page.fill("Source of the figures", "sheet of 2024").await;
    page.press("Keep this model").await;
    page.press("Put right Own cart battery").await;
    page.see("Put Own cart battery right").await;
    assert_eq!(page.value("Source of the figures").await, "sheet of 2024");
    page.fill("C20", "105").await;
    page.press("Keep this model").await;
    page.see("The rate table tells 225 Ah at 20 hours, but C20 is 105 Ah").await;
    page.fill("C20", "230").await;
    page.press("Keep this model").await;
    page.until_count("heading", "Put Own cart battery right", 0).await;
    let models = shop.get("/api/models").await;
    assert_eq!(
        (&models[0]["model"]["c20"], &models[0]["version"]),
        (&serde_json::json!(230.0), &serde_json::json!(2))
    );
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_battery_that_lags_is_charged_by_itself_and_a_charger_is_set_anew() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    let visit = look_over(&page, &shop.bank("High Pasture hut").await, "Begin a visit").await;
    // what is found at the charger, then what it is set to
    page.press("Write down its settings").await;
    page.press("Tell what stands there").await;
    page.choose("What it is", "solar controller").await;
    page.fill("Absorption, V", "28.2").await;
    page.press("Keep").await;
    page.see("Solar controller: absorption 28.2 V.").await;
    page.press("Change").await;
    page.fill("Absorption, V", "29.6").await;
    page.fill("Hours of absorption", "30").await;
    // whether it was set anew or stood wrong is asked, and a figure that cannot be leaves the rest as it was typed
    page.press("Keep").await;
    page.see("Say which of the two it is.").await;
    page.press("it was set anew at the bank today").await;
    page.press("Keep").await;
    page.faulty("Hours of absorption").await;
    assert_eq!(page.value("Absorption, V").await, "29.6");
    page.fill("Hours of absorption", "3").await;
    page.press("Keep").await;
    page.see("Solar controller: absorption 29.6 V, 3 h of absorption.").await;
    page.go(&format!("{visit}?step=look_over")).await;
    page.see("absorption was found at 28.2 V and set to 29.6 V").await;
    page.go(&format!("{visit}?step=rest_check")).await;
    page.fill("Volts at its posts", "6.12").await;
    page.press("Keep and go on").await;
    page.press("Write down what was done about it").await;
    page.choose("Where it was done", "battery A1").await;
    page.press_in("What was done", "something else").await;
    page.press("Keep what was done").await;
    page.faulty("In your words").await;
    page.press_in("What was done", "charged by itself").await;
    page.fill("In your words", "five hours").await;
    page.press("Keep what was done").await;
    page.see("Charged by itself: five hours; not read again on this visit.").await;
    let report = shop.text(&format!("/api{visit}/report")).await;
    for said in [
        "The solar controller: absorption was found at 28.2 V and set to 29.6 V",
        "The solar controller: the hours of absorption were set to 3 h",
        "five hours; not read again on this visit",
    ] {
        assert!(report.contains(said), "{said} in {report}");
    }
    page.close().await;
}
