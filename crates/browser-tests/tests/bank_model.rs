//! What a bank is made of is put right: from a day on, or for always; and figures of a model from a day on.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, Page, Shop};

#[tokio::test(flavor = "multi_thread")]
async fn a_bank_is_given_another_model_and_a_model_new_figures_from_a_day_on() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.go("/library").await;
    page.press("Copy Flooded 6 V 420 Ah, tall case").await;
    page.fill("Name on the case", "Ridge 6 V").await;
    page.fill("Source of the figures", "maker's sheet of 2021").await;
    page.press("Keep this model").await;
    page.see("maker's sheet of 2021").await;

    let banks = shop.get("/api/banks").await;
    let bank = banks[3]["id"].as_str().unwrap();
    page.go(&format!("/banks/{bank}/edit")).await;
    page.see("those with as many cells in a case").await;
    page.choose("Battery model", "Ridge 6 V").await;
    page.press("from a day on").await;
    page.press("Give it this model").await;
    page.see("A day is missing; accepted is year, month and day").await;
    page.fill("First day", "2031-01-01").await;
    page.press("Give it this model").await;
    page.see("lies in the future; accepted is today or earlier").await;
    page.fill("First day", "2026-10-01").await;
    page.press("Give it this model").await;
    page.see("Kept. What it asks for is judged anew.").await;
    page.see("Flooded 6 V 420 Ah, tall case: until 1 Oct 2026").await;

    page.go("/library").await;
    page.press("Put right Ridge 6 V").await;
    page.see("One bank stands on it").await;
    page.fill("Name on the case", "Ridge 6 V, sheet of 2026").await;
    page.press("from a day on").await;
    page.fill("First day", "2026-10-05").await;
    page.press("Keep this model").await;
    page.see("Ridge 6 V, sheet of 2026").await;
    let stands = shop.get(&format!("/api/banks/{bank}/model")).await;
    let former: Vec<&str> =
        stands["former"].as_array().unwrap().iter().map(|f| f["name"].as_str().unwrap()).collect();
    assert_eq!(former, ["Flooded 6 V 420 Ah, tall case", "Ridge 6 V"]);
    page.close().await;
}
