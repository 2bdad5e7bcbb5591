//! Parts of the documents that are written by the code.

use std::path::Path;
use std::sync::Mutex;

/// One writer at a time: two parts can stand in one document.
static WRITING: Mutex<()> = Mutex::new(());

/// Asserts that a document shows a text between its marks; `GOLDEN=write` writes it there.
pub fn document_shows(document: &str, part: &str, text: &str) {
    let (from, to) = (format!("<!-- {part} -->\n"), format!("<!-- end of {part} -->"));
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").join(document);
    let lock = WRITING.lock().unwrap();
    let whole = std::fs::read_to_string(&path).unwrap();
    let (head, rest) = whole.split_once(&from).unwrap();
    let (shown, foot) = rest.split_once(&to).unwrap();
    if std::env::var("GOLDEN").as_deref() == Ok("write") {
        std::fs::write(&path, format!("{head}{from}{text}{to}{foot}")).unwrap();
        return;
    }
    drop(lock);
    assert_eq!(shown, text, "GOLDEN=write cargo test -p rainshadow-core --test all diagnosis writes it anew");
}
