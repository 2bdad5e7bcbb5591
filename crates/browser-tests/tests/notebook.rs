//! Notebook years: a file with bad lines, and a grid typed and pasted into.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, Page, Shop};

const YEARS: &str =
    "cell;2024-03-14;2024-09-20\ntemperature;18 C;64 F\nA1-1;242;1,241\nA2-1;241;12.65\nA99-1;240;240\n";

#[tokio::test(flavor = "multi_thread")]
async fn a_csv_with_bad_lines_is_shown_and_its_good_rounds_are_taken() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.press("Larch Point repeater").await;
    page.press("More").await;
    page.press("Notebook years").await;
    page.press("A CSV file").await;
    let bad = shop.folder.path().join("not-a-notebook.csv");
    std::fs::write(&bad, "hello\n").unwrap();
    // a file that is far too large is told before it is sent
    let large = shop.folder.path().join("large.csv");
    std::fs::File::create(&large).unwrap().set_len(50 * 1024 * 1024).unwrap();
    page.upload(large.to_str().unwrap()).await;
    page.see("The file has 50 MB; up to 8 MB are taken").await;
    page.upload(bad.to_str().unwrap()).await;
    page.see("a header is expected").await;
    let file = shop.folder.path().join("years.csv");
    std::fs::write(&file, YEARS).unwrap();
    page.upload(file.to_str().unwrap()).await;
    page.see("2 days can be taken, 2 entries refused").await;
    page.see("looks like volts").await;
    page.see("This bank has no cell A99-1").await;
    // two cells are too few to ask about; seven show which one stands apart
    let unlikely = "cell,2024-11-02\nA1-1,240\nA2-1,241\nA3-1,239\nA4-1,204\nA5-1,240\nA6-1,241\nA7-1,240\n";
    page.fill("Or paste the table here", unlikely).await;
    page.press("Check").await;
    page.see("1 day can be taken, 0 entries refused, 1 to look at again").await;
    page.see("It stands 36 points below the median of its mates").await;
    page.upload(file.to_str().unwrap()).await;
    page.see("2 days can be taken, 2 entries refused").await;
    page.press("Take the good ones").await;
    page.see("14 Mar 2024").await;
    page.see("20 Sep 2024").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_grid_takes_typed_fields_and_a_pasted_block() {
    let shop = Shop::with_demo().await;
    let page = Page::open(&shop, DESK).await;
    page.press("Larch Point repeater").await;
    page.press("More").await;
    page.press("Notebook years").await;
    page.fill("Date, column 1", "2024-03-14").await;
    page.fill("A1-1, column 1", "242").await;
    page.enter().await;
    page.until(
        "Enter goes down",
        "return document.activeElement.getAttribute('aria-label') === 'A2-1, column 1'",
    )
    .await;
    // half an hour of typing survives a reload
    page.reload().await;
    page.until_value("A1-1, column 1", "242").await;
    // what a spreadsheet puts on the clipboard
    page.script(
        "const d = new DataTransfer(); d.setData('text', 'cell\\t2024-09-20\\t2024-12-01\\ntemperature\\t18\\t\\nA1-1\\t241\\t240\\nA2-1\\t240\\t239\\n'); \
         document.querySelector('[aria-label=\"Date, column 2\"]').dispatchEvent(new ClipboardEvent('paste', { clipboardData: d, bubbles: true, cancelable: true }))",
    )
    .await;
    // volts at rest and a fill beside them, one of each as nobody can have read it
    page.fill("Volts, column 2", "60").await;
    page.fill("Water, column 3", "some").await;
    page.press("Check").await;
    page.see("3 days can be taken, 2 entries refused").await;
    page.see("is more than 12 cells can show").await;
    page.see("This is no amount of water").await;
    page.fill("Volts, column 2", "25.1").await;
    page.fill("Water, column 3", "2.5 L").await;
    page.press("Check").await;
    page.see("3 days can be taken, 0 entries refused").await;
    page.see("25.1 V").await;
    page.see("2 of 12").await;
    page.press("Take them").await;
    page.see("New round").await;
    page.press("History").await;
    page.see("1 Dec 2024").await;
    page.until(
        "the fill is a visit of its day",
        "return [...document.querySelectorAll('tr')].some(r => /1 Dec 2024\\s+ME\\s+watered\\s/.test(r.innerText))",
    )
    .await;

    page.press("More").await;
    page.press("Notebook years").await;
    page.press("A CSV file").await;
    page.fill("Or paste the table here", "cell,2023-05-05\nA3-1,239\n").await;
    page.press("Check").await;
    page.see("1 day can be taken, 0 entries refused").await;
    page.close().await;
}
