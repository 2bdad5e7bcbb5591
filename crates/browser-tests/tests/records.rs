//! The record of a monitor in the browser: a file of another hand, what it leaves open, what of it is wrong, its year.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, PHONE, Page, Shop};
use std::fmt::Write as _;

/// A month of a 24 V bank by another hand: decimal commas, mA that rise as it is drawn from, one line that is no line.
fn log_of_a_month() -> Vec<u8> {
    let mut text = String::from("Protokoll der Hütte\n\nDatum;Zeit;Spannung (V);Strom (mA);Temp (°C)\n");
    for line in 0..30 * 48 {
        let (day, half_hour) = (line / 48 + 1, line % 48);
        let (volts, amperes) = match half_hour {
            0..16 => (249, 1),
            16..26 => (268, -40),
            26..30 => (294, -6 - half_hour % 2),
            30..36 => (253, 1),
            _ => (243, 22 + 2 * (half_hour % 2)),
        };
        let (hour, minute) = (half_hour / 2, half_hour % 2 * 30);
        if line == 700 {
            writeln!(text, "{day:02}.08.2026;gestern;;;").unwrap();
        } else {
            writeln!(
                text,
                "{day:02}.08.2026;{hour:02}:{minute:02};{},{};{}000;21,5",
                volts / 10,
                volts % 10,
                amperes
            )
            .unwrap();
        }
    }
    text.chars().map(|c| u8::try_from(u32::from(c)).unwrap()).collect()
}

fn written(folder: &tempfile::TempDir, bytes: &[u8]) -> String {
    let file = folder.path().join("hut.csv");
    std::fs::write(&file, bytes).unwrap();
    file.to_str().unwrap().to_owned()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_file_is_read_into_its_bank_told_what_it_leaves_open_and_taken_out_again() {
    let shop = Shop::with_demo().await;
    let folder = tempfile::tempdir().unwrap();
    let hut = shop.bank("High Pasture hut").await;
    let page = Page::open(&shop, DESK).await;
    page.go(&format!("{hut}/plan?planner=record")).await;
    page.see("Nothing of its charging is on record yet.").await;
    page.upload(&written(&folder, b"\x89PNG\r\n\x1a\n\x00\x00\x01")).await;
    page.see("The file is not text").await;
    page.upload(&written(&folder, &log_of_a_month())).await;
    page.see("Tell first what is marked.").await;
    page.see("Say which clock wrote the times").await;
    assert_eq!(page.axe(&[]).await, "");
    page.press("local time of the site").await;
    page.press("it comes out of the bank").await;
    page.see("Its first rows, as understood").await;
    page.see("1 Aug 2026 00:00").await;
    page.see("-1.00 A").await;
    page.fill("Name of the source", "").await;
    page.press("Read all of it").await;
    page.see("The source needs a name of 1 to 120 characters.").await;
    page.fill("Name of the source", "monitor of the hut").await;
    page.press("Read all of it").await;
    page.see("1439 lines from 1 Aug 2026 00:00 to 30 Aug 2026 23:30").await;
    page.press("What was not taken").await;
    page.see("gestern").await;
    page.see("It reached full on every one of 30 days.").await;
    page.press("Take it out").await;
    page.see("taken out: it counts for nothing").await;
    page.see("Nothing of its charging is on record yet.").await;
    page.press("Put it back").await;
    page.see("It reached full on every one of 30 days.").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_year_of_the_coach_is_shown_and_a_bank_that_is_not_on_the_books_has_its_file_judged() {
    let shop = Shop::with_demo().await;
    let folder = tempfile::tempdir().unwrap();
    let coach = shop.bank("Marginalia").await;
    let page = Page::open(&shop, PHONE).await;
    page.go(&format!("{coach}/plan?planner=record")).await;
    page.see("It reached full on 8 of 362 days; the longest it went without was 153 days.").await;
    assert!(page.fits().await);
    page.press("Day by day").await;
    page.see("19.6 Ah out").await;
    page.close().await;
    let page = Page::open(&shop, DESK).await;
    page.go("/calculators?tool=record").await;
    page.upload(&written(&folder, &log_of_a_month())).await;
    page.see("Tell first what is marked.").await;
    page.press("universal time (UTC)").await;
    page.press("it comes out of the bank").await;
    page.see("Its first rows, as understood").await;
    page.press("Read all of it").await;
    page.see("is it the record of another bank?").await;
    page.fill("Volts of the bank", "24").await;
    page.fill("Strings in parallel", "3").await;
    page.press("Read all of it").await;
    page.see("It reached full on every one of 30 days.").await;
    page.close().await;
}
