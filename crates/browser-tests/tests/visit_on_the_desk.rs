//! A whole visit of a flooded bank on the desk, in the order of the work, with bad input on the way.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, Page, Shop};
use serde_json::{Value, json};

/// A 24 V bank of four tall six-volt batteries; its id.
async fn hut(shop: &Shop) -> String {
    let client = reqwest::Client::new();
    let (site, bank) = ("018f0000-0000-7000-8000-000000000001", "018f0000-0000-7000-8000-000000000002");
    let put = |path: String, body: Value| client.put(format!("{}{path}", shop.base())).json(&body).send();
    put(format!("/api/sites/{site}"), json!({"name": "High Pasture hut", "zone": "UTC"})).await.unwrap();
    let shape = json!({"system_voltage": 24, "cells_per_battery": 3, "series": 4, "parallel": 1});
    let body = json!({"site": site, "model": "flooded-6v-420", "rules": "maker_first", "shape": shape});
    assert!(put(format!("/api/banks/{bank}"), body).await.unwrap().status().is_success());
    bank.to_owned()
}

async fn confirm_all(page: &Page) {
    for left in (0..page.names("button", "Safety").await.len()).rev() {
        page.press_in("Safety", "It is so").await;
        page.until_within("Safety", "button", left).await;
    }
}

async fn wiring(page: &Page, shop: &Shop) {
    page.see("Make safe before anything is touched").await;
    let text = shop.folder.path().join("wiring.png");
    std::fs::write(&text, "not a picture").unwrap();
    let large = text.with_file_name("large.jpg");
    std::fs::File::create(&large).unwrap().set_len(50 * 1024 * 1024).unwrap();
    page.upload(large.to_str().unwrap()).await;
    page.see("The photograph has 50 MB; up to").await;
    page.upload(text.to_str().unwrap()).await;
    page.see("This is no photograph that can be read here").await;
    let picture = shop.folder.path().join("shot.png");
    page.snapshot(&picture).await;
    page.upload(picture.to_str().unwrap()).await;
    page.pictured("the bank, TA").await;
    confirm_all(page).await;
    page.see("confirmed by TA").await;
    page.press("Done, on to Look over").await;
}

async fn looks(page: &Page) {
    page.press("Case: fine").await;
    page.until_is("button", "Case: fine", "pressed", true).await;
    page.press("Hold-down: found something").await;
    page.press_in("What was found", "A3").await;
    page.press_in("What was found", "it moves").await;
    page.fill("Measured", "a bit").await;
    page.press("Keep the finding").await;
    page.see("“a bit” is not a number").await;
    page.fill("Measured", "4").await;
    page.fill("In your words", "east side").await;
    page.press("Keep the finding").await;
    page.see("A3, it moves").await;
    page.press("The other").await;
    page.until_count("button", "The other", 0).await;
    page.press("Done, on to Rest check").await;
}

async fn rest(page: &Page) {
    page.see("What did it do before?").await;
    page.fill("Hours since charge", "soon").await;
    page.press("Note it").await;
    page.see("“soon” is not a number").await;
    page.fill("Hours since charge", "26").await;
    page.fill("Hours since load", "25").await;
    page.fill("Cases", "20").await;
    page.press("Note it").await;
    page.see("These volts are settled").await;
    let at = async |battery: &str| {
        page.headed(battery).await;
        page.until_value("Volts at its posts", "").await;
    };
    at("A1").await;
    page.fill("Volts at its posts", "63.5").await;
    page.press("Keep and go on").await;
    page.see("63.50 V is more than 3 cells can show").await;
    page.fill("Volts at its posts", "6.35").await;
    page.press("Keep and go on").await;
    at("A2").await;
    page.fill("Volts at its posts", "4.24").await;
    page.press("Keep and go on").await;
    page.see("about two volts short").await;
    page.press("Read it again").await;
    for (battery, volts) in [("A2", "6.34"), ("A3", "6.35"), ("A4", "6.36")] {
        page.fill("Volts at its posts", volts).await;
        page.press("Keep and go on").await;
        if battery != "A4" {
            at(if battery == "A2" { "A3" } else { "A4" }).await;
        }
    }
    page.see("Four batteries read, alike; the bank rests at").await;
    page.press("Done, on to Round").await;
}

async fn round(page: &Page) {
    page.press("Take the round").await;
    page.fill("Electrolyte", "20").await;
    page.press("Begin the round").await;
    page.see("0 of 12 read").await;
    for (i, figure) in ["266", "265", "267", "266", "265", "266", "264", "266", "265", "267", "266", "265"]
        .iter()
        .enumerate()
    {
        page.read(&format!("A{}-{}", i / 3 + 1, i % 3 + 1), figure).await;
    }
    page.press("Finish and judge").await;
    page.see("The bank is even: all 12 cells lie within 3 points").await;
    page.press("Done, on to Water").await;
}

async fn water(page: &Page) {
    page.see("Water added").await;
    for i in 0..12 {
        let cell = format!("A{}-{}", i / 3 + 1, i % 3 + 1);
        page.headed(&cell).await;
        page.until_is("button", "plates bare", "disabled", false).await;
        page.keys(if i == 4 { "2" } else { "3" }).await;
    }
    page.see("to the mark").await;
    page.fill("Amount", "400").await;
    page.press("Note the water").await;
    page.see("400 L is more than the 12 cells of the bank can hold in all").await;
    page.fill("Amount", "1.2").await;
    page.press("Note the water").await;
    page.see("added 1.2 L").await;
    page.press("Done, on to Equalize").await;
    page.see("Look at what a run would need").await;
    page.press("Not wanted today, on to Load tests").await;
    page.press("Not wanted today, on to Joints").await;
    page.press("Not wanted today, on to Close up").await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_flooded_bank_is_visited_from_make_safe_to_the_report() {
    let shop = Shop::open().await;
    let bank = hut(&shop).await;
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go("/").await;
    page.see("High Pasture hut").await;
    assert_eq!(page.path().await, "/today");
    page.go(&format!("/banks/{bank}")).await;
    page.press("Begin a visit").await;
    wiring(&page, &shop).await;
    let visit = page.path().await;
    looks(&page).await;
    rest(&page).await;
    round(&page).await;
    water(&page).await;

    page.see("Chargers back in their automatic mode").await;
    // closed too early: what is missing is named
    page.press("Close the visit").await;
    page.see("Not ticked, and the report will say so: Every cap on and shut").await;
    page.press("Back to the list").await;
    for item in [
        "Every cap on",
        "Tops wiped",
        "Tools counted",
        "Cables as photographed",
        "Cover on",
        "Disconnect switched on",
        "Loads run",
        "Chargers back",
    ] {
        page.press(item).await;
        page.until_is("checkbox", item, "checked", true).await;
        page.until_is("checkbox", item, "disabled", false).await;
    }
    page.fill("A note", "the door sticks in wet weather").await;
    page.press("Keep the note").await;
    page.see("the door sticks in wet weather").await;
    page.press("Close the visit").await;
    page.see("This visit is closed").await;
    page.see("A3, hold-down: it moves").await;

    let report =
        reqwest::get(format!("{}/api{visit}/report", shop.base())).await.unwrap().text().await.unwrap();
    for part in
        ["High Pasture hut", "the door sticks in wet weather", "ast side", "1.2 L", "What next, and by when"]
    {
        assert!(report.contains(part), "{part} in the report");
    }
    assert!(
        !report.contains("http://")
            || report.matches("http://www.w3.org").count() == report.matches("http://").count()
    );
    // what was found and not put right is due, and the calendar has it
    page.go("/today").await;
    page.see("A3, hold-down: it moves").await;
    let calendar =
        reqwest::get(format!("{}/api/calendar.ics", shop.base())).await.unwrap().text().await.unwrap();
    assert!(calendar.starts_with("BEGIN:VCALENDAR") && calendar.contains("High Pasture hut"), "{calendar}");
    page.close().await;
}
