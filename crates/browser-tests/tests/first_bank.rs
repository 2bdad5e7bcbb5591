//! From nothing to a bank on the page.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, Page, Shop};

#[tokio::test(flavor = "multi_thread")]
async fn a_first_bank_is_described_and_one_that_cannot_be_is_refused() {
    let shop = Shop::open().await;
    let page = Page::open(&shop, DESK).await;
    page.see("No bank yet").await;
    page.press("Describe a bank").await;
    page.fill("Site", "Arboretum tram 4").await;
    page.choose("Battery model", "Flooded 8 V 170 Ah").await;
    // voltage and model fill in how many stand in series
    page.see("48 V flooded, 2 strings of 6 eight-volt batteries").await;
    page.fill("Batteries in series", "5").await;
    page.fill("Strings in parallel", "1").await;
    page.see("5 batteries of 8 V in series make 40 V, not 48 V: 48 V needs 6 in series").await;
    page.fill("Batteries in series", "six").await;
    page.see("“six” is not a whole number; 5 is kept").await;
    page.fill("Batteries in series", "6").await;
    page.fill("Rows in a string", "2").await;
    page.see("48 V flooded, 6 eight-volt batteries in one string, 170 Ah each").await;
    page.see("24 cells").await;
    page.fill("In service since", "last year").await;
    page.press("Put this bank on the page").await;
    page.see("accepted is 2021, 2021-05, 2021-05-03, or nothing").await;
    page.fill("In service since", "2022").await;
    page.press("Put this bank on the page").await;
    page.see("No round yet").await;
    for (battery, cell) in (1..=6).flat_map(|b| (1..=4).map(move |c| (b, c))) {
        page.until_count("button", &format!("A{battery}-{cell}"), 1).await;
    }
    // reachable by keyboard, each cell by its address
    page.focus("A1-1").await;
    page.keys("\u{e014}").await;
    page.focused("A1-2").await;
    assert!(page.fits().await);
    page.go("/banks").await;
    page.keys("/").await;
    page.keys("a4-2").await;
    page.see("A4-2").await;
    page.enter().await;
    page.see("No judged reading of this cell yet").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bank_is_archived_and_brought_back() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.press("Larch Point repeater").await;
    page.see("The bank is even").await;
    page.press("More").await;
    page.press("Archive").await;
    page.see("3 banks ask for action.").await;
    page.until_count("heading", "Larch Point", 0).await;
    // what was done is said, and can be taken back
    page.see("Larch Point repeater is archived.").await;
    page.press("Undo").await;
    page.see("The bank is even").await;
    page.press("More").await;
    page.press("Archive").await;
    page.see("3 banks ask for action.").await;
    page.press("archived").await;
    page.see("Larch Point repeater").await;
    page.press("Restore").await;
    page.press("archived").await;
    page.see("Larch Point repeater").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_description_is_put_right_and_a_refused_bank_loses_nothing_that_was_typed() {
    let shop = Shop::open().await;
    let page = Page::open(&shop, DESK).await;
    page.press("Describe a bank").await;
    page.fill("Site", "High Pastur hut").await;
    page.fill("In service since", "2031").await;
    page.press("Put this bank on the page").await;
    page.see("“2031” is no date in service").await;
    // the site's name was wrong as well; the second try is another site, not a quarrel with the first
    page.fill("Site", "High Pasture").await;
    page.fill("In service since", "2021").await;
    page.press("Put this bank on the page").await;
    page.see("No round yet").await;
    page.press("More").await;
    page.press("Put the description right").await;
    page.see("These name its cells, so they stay").await;
    page.fill("Site", " ").await;
    page.press("Keep it so").await;
    page.see("The site needs a name of 1 to 120 characters").await;
    page.fill("Site", "High Pasture hut").await;
    page.fill("Rows in a string", "2").await;
    page.fill("Behind the first row", "milk room wall").await;
    page.press("Keep it so").await;
    page.see("No round yet").await;
    page.see("High Pasture hut").await;
    page.see("milk room wall").await;
    // nothing is written down of it, so it can go altogether
    page.press("More").await;
    page.press("Delete, nothing is written down").await;
    page.press("Delete it").await;
    page.see("No bank yet").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_model_is_typed_from_the_makers_sheet_in_gallons_and_bad_figures_are_named() {
    let shop = Shop::open().await;
    let page = Page::open(&shop, DESK).await;
    page.go("/settings").await;
    page.choose("Volume", "US gallons").await;
    page.see("Saved.").await;
    // the old name of the place still leads there
    page.go("/shelf").await;
    page.until("it leads to the library", "return location.pathname === '/library'").await;
    page.see("1.52 US gal").await;
    page.press("Copy Flooded 6 V 420 Ah, tall case").await;
    page.fill("Name on the case", "Own 6 V 415 Ah").await;
    page.fill("Source of the figures", "maker's sheet, 2024").await;
    page.fill("C20, Ah", "plenty").await;
    page.fill("Acid in one cell, US gal", "400").await;
    page.press("Keep this model").await;
    page.see("“plenty” is not a number; capacity is accepted as 1 to 5000 Ah").await;
    page.see("accepted is 0 to 26 US gal").await;
    page.fill("C20, Ah", "415").await;
    page.fill("Acid in one cell, US gal", "1,5").await;
    page.press("Keep this model").await;
    page.see("1.50 US gal").await;
    page.go("/banks/new").await;
    page.choose("Battery model", "Own 6 V 415 Ah").await;
    page.see("415 Ah each").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn an_exported_bank_is_brought_along_and_a_broken_file_is_told_apart() {
    let demo = Shop::with_demo().await;
    let banks = demo.get("/api/banks").await;
    let file = demo.get(&format!("/api/banks/{}/export.json", banks[4]["id"].as_str().unwrap())).await;
    let shop = Shop::open().await;
    let good = shop.folder.path().join("larch-point.json");
    std::fs::write(&good, file.to_string()).unwrap();
    let broken = shop.folder.path().join("broken.json");
    std::fs::write(&broken, &file.to_string()[..400]).unwrap();
    let large = shop.folder.path().join("large.json");
    std::fs::File::create(&large).unwrap().set_len(300 * 1024 * 1024).unwrap();
    let page = Page::open(&shop, DESK).await;
    page.see("No bank yet").await;
    page.upload(large.to_str().unwrap()).await;
    page.see("The file has 300 MB; up to 256 MB are taken").await;
    page.upload(broken.to_str().unwrap()).await;
    page.see("The text is not JSON").await;
    page.upload(good.to_str().unwrap()).await;
    page.see("Every bank is steady").await;
    page.press("Larch Point repeater").await;
    page.see("The bank is even: all 12 cells lie within 5 points").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_site_gets_a_climate_typed_begun_or_from_a_table_and_a_month_that_cannot_be_is_named() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.press("Dipper").await;
    page.press("More").await;
    page.press("Put the description right").await;
    page.press("Climate, for water, winter and sun").await;
    page.choose("Begin with an invented climate", "Mild coast (invented)").await;
    page.see("11 °C over the year; coldest January at 6 °C, warmest July at 16 °C").await;
    page.see("Lowest on record \u{2212}6").await;
    page.fill("Jul, °C", "77").await;
    page.press("Keep it so").await;
    page.see("July: ").await;
    page.see("Is it 77 °F, which is 25 °C").await;
    // the month is marked, and what was typed stays
    page.until_is("field", "Jul, °C", "invalid", true).await;
    page.until_value("Jul, °C", "77").await;
    page.fill("Jul, °C", "17.5").await;
    // its lowest on record come along, and one that lies above its mean is named beside it
    page.fill("Jul, lowest, °C", "30").await;
    page.fill("Latitude, °", "north").await;
    page.press("Keep it so").await;
    page.see("\u{201c}north\u{201d} is not a number; accepted are digits and one comma or point.").await;
    page.fill("Latitude, °", "47,5").await;
    page.press("Keep it so").await;
    page.until_is("field", "Jul, lowest, °C", "invalid", true).await;
    page.fill("Jul, lowest, °C", "4").await;
    page.press("Keep it so").await;
    page.see("24 V").await;
    page.press("More").await;
    page.press("Put the description right").await;
    page.see("warmest July at 17.5 °C").await;
    assert!(page.fits().await);
    // the table that is offered is the one that comes in again
    page.until(
        "it is offered as a table",
        "return decodeURIComponent(document.querySelector('.means a').href).includes('7,17.5')",
    )
    .await;
    page.press("Clear").await;
    let months: Vec<String> = (1..=12).map(|month| format!("{month},{}", month - 1)).collect();
    let table = shop.folder.path().join("own.csv");
    std::fs::write(&table, format!("month,celsius\n{}", months.join("\n"))).unwrap();
    page.upload(table.to_str().unwrap()).await;
    page.see("coldest January at 0 °C, warmest December at 11 °C").await;
    page.close().await;
}
