//! Backups: looked at, damaged in every way that comes to mind, taken back.
#![allow(
    clippy::unwrap_used,
    clippy::too_many_lines,
    clippy::semicolon_if_nothing_returned,
    reason = "helpers fail loudly, and a list of cases is as long as it is"
)]

use crate::common::{Shop, id, seeded};
use rainshadow::backup::{Manifest, restore, verify, write};
use rainshadow::db::Db;
use reqwest::Method;
use serde_json::json;
use std::path::{Path, PathBuf};
use tempfile::TempDir;

/// Names in a folder, sorted.
fn names(folder: &Path) -> Vec<String> {
    let mut all: Vec<String> =
        std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().file_name().into_string().unwrap()).collect();
    all.sort();
    all
}

/// A folder with the demo and two photographs, and a good backup of it.
async fn backed_up() -> (TempDir, PathBuf) {
    let folder = tempfile::tempdir().unwrap();
    seeded(folder.path());
    let shop = Shop::open_in(folder).await;
    let bank = shop.get("/api/banks").await[0]["id"].as_str().unwrap().to_owned();
    let visit = id();
    shop.put(&format!("/api/visits/{visit}"), &json!({"bank": bank})).await;
    for shade in [40, 90] {
        let path = format!("/api/visits/{visit}/photos/{}?what=other", id());
        let sent =
            shop.request(Method::PUT, &path).body(crate::common::jpeg(64, 48, shade)).send().await.unwrap();
        assert!(sent.status().is_success(), "{:?}", sent.text().await);
    }
    let folder = shop.close().await;
    let out = tempfile::tempdir().unwrap();
    let file = out.path().join("good.tar");
    let manifest = write(folder.path(), &file).unwrap();
    // small ones are their own small copy
    assert_eq!(manifest.photographs(), 2);
    assert!(manifest.left_out.is_empty());
    (out, file)
}

/// One file of an archive as it can be changed.
#[derive(Clone)]
struct Part {
    name: Vec<u8>,
    kind: tar::EntryType,
    mode: u32,
    link: Option<String>,
    bytes: Vec<u8>,
}

fn parts(file: &Path) -> Vec<Part> {
    let mut archive = tar::Archive::new(std::fs::File::open(file).unwrap());
    let read = |entry: Result<tar::Entry<'_, std::fs::File>, std::io::Error>| {
        let mut entry = entry.unwrap();
        let mut bytes = Vec::new();
        std::io::Read::read_to_end(&mut entry, &mut bytes).unwrap();
        let name = entry.path_bytes().into_owned();
        Part { name, kind: tar::EntryType::Regular, mode: 0o600, link: None, bytes }
    };
    archive.entries().unwrap().map(read).collect()
}

fn archive(parts: &[Part]) -> Vec<u8> {
    let mut builder = tar::Builder::new(Vec::new());
    for part in parts {
        let mut header = tar::Header::new_ustar();
        // as bytes, for the names that `set_path` refuses
        header.as_old_mut().name[..part.name.len()].copy_from_slice(&part.name);
        header.set_entry_type(part.kind);
        header.set_mode(part.mode);
        header.set_size(part.bytes.len() as u64);
        if let Some(link) = &part.link {
            header.set_link_name(link).unwrap();
        }
        header.set_cksum();
        builder.append(&header, part.bytes.as_slice()).unwrap();
    }
    builder.into_inner().unwrap()
}

fn named<'a>(parts: &'a mut [Part], end: &str) -> &'a mut Part {
    parts.iter_mut().find(|p| p.name.ends_with(end.as_bytes())).unwrap()
}

/// The same files with a manifest that lists them as they are now.
fn relisted(mut parts: Vec<Part>, change: impl FnOnce(&mut Manifest)) -> Vec<Part> {
    let mut manifest: Manifest = serde_json::from_slice(&named(&mut parts, "manifest.json").bytes).unwrap();
    for file in &mut manifest.files {
        let own = parts.iter().find(|p| p.name == file.name.as_bytes()).unwrap();
        file.size = own.bytes.len() as u64;
        file.sha256 = rainshadow::photos::hex(&<sha2::Sha256 as sha2::Digest>::digest(&own.bytes));
    }
    change(&mut manifest);
    named(&mut parts, "manifest.json").bytes = serde_json::to_vec(&manifest).unwrap();
    parts
}

/// A database that is changed by SQL, closed and read back.
fn changed_database(bytes: &[u8], sql: &str) -> Vec<u8> {
    let scratch = tempfile::tempdir().unwrap();
    let path = scratch.path().join("x.db");
    std::fs::write(&path, bytes).unwrap();
    let db = rusqlite::Connection::open(&path).unwrap();
    db.execute_batch("PRAGMA foreign_keys = OFF; PRAGMA journal_mode = DELETE;").unwrap();
    db.execute_batch(sql).unwrap();
    db.close().map_err(|(_, e)| e).unwrap();
    std::fs::read(path).unwrap()
}

fn file_of(bytes: Vec<u8>) -> (TempDir, PathBuf) {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("damaged.tar");
    std::fs::write(&path, bytes).unwrap();
    (folder, path)
}

/// Refused by both commands with these words, and nothing is left behind.
fn refused(case: &str, bytes: Vec<u8>, words: &str) {
    let (folder, path) = file_of(bytes);
    let said = verify(&path, &indicatif::ProgressBar::hidden()).unwrap_err().to_string();
    assert!(said.contains(words), "{case}: {said}");
    let target = folder.path().join("restored");
    let said = restore(&path, &target, false, &indicatif::ProgressBar::hidden()).unwrap_err().to_string();
    assert!(said.contains(words), "{case}: {said}");
    assert_eq!(names(folder.path()), ["damaged.tar"], "{case}: nothing is left behind");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_good_backup_is_verified_restored_and_served_as_it_was() {
    let (out, file) = backed_up().await;
    assert!(verify(&file, &indicatif::ProgressBar::hidden()).unwrap().database.rows["bank"] == 6);
    // onto a folder that is there and empty too
    let target = out.path().join("again");
    std::fs::create_dir(&target).unwrap();
    let told = indicatif::ProgressBar::hidden();
    restore(&file, &target, false, &told).unwrap();
    let size = file.metadata().unwrap().len();
    assert!(told.length() == Some(size) && told.position() + 1024 >= size, "{} of {size}", told.position());
    assert_eq!(names(&target), ["photos", "rainshadow.db"]);
    #[cfg(unix)]
    for (name, mode) in [("", 0o700), ("photos", 0o700), ("rainshadow.db", 0o600)] {
        use std::os::unix::fs::PermissionsExt;
        let found = target.join(name).metadata().unwrap().permissions().mode() & 0o777;
        assert_eq!(found, mode, "{name}: {found:o}");
    }
    let said = restore(&file, &target, false, &indicatif::ProgressBar::hidden()).unwrap_err().to_string();
    assert!(said.contains("is not empty"), "{said}");
    let said = write(&target, &file).unwrap_err().to_string();
    assert!(said.contains("is there already"), "{said}");
    let again = out.path().join("again.tar");
    let (first, second) =
        (verify(&file, &indicatif::ProgressBar::hidden()).unwrap(), write(&target, &again).unwrap());
    assert_eq!((first.database, first.files.len()), (second.database, second.files.len()));
    drop(Db::open(&target).unwrap());
}

#[tokio::test(flavor = "multi_thread")]
async fn damaged_and_foreign_archives_are_refused_each_in_its_own_words() {
    let (_out, file) = backed_up().await;
    let whole = std::fs::read(&file).unwrap();
    let good = parts(&file);
    let with = |change: &dyn Fn(&mut Vec<Part>)| {
        let mut own = good.clone();
        change(&mut own);
        archive(&own)
    };
    // cut off anywhere: in a header, in the database, before the manifest, in the last empty block
    let before_manifest = whole.len() - 1024 - good.last().unwrap().bytes.len().next_multiple_of(512) - 512;
    refused("empty", Vec::new(), "holds no file");
    refused("a header cut off", whole[..300].to_vec(), "taken back");
    refused("cut in the database", whole[..whole.len() / 2].to_vec(), "cut off");
    refused("cut before the manifest", whole[..before_manifest].to_vec(), "no manifest");
    refused("cut in the manifest", whole[..whole.len() - 1100].to_vec(), "cut off");
    refused("the last block missing", whole[..whole.len() - 512].to_vec(), "cut off");
    refused("the last byte missing", whole[..whole.len() - 1].to_vec(), "cut off");
    refused("something appended", [whole.as_slice(), b"more"].concat(), "behind its end");
    let mut flipped = whole.clone();
    let at = 512 + 4096 * 3 + 100;
    flipped[at] ^= 0x10;
    refused("a flipped bit in the database", flipped, "“rainshadow.db” is not what was backed up");
    let mut flipped = whole.clone();
    flipped[3] ^= 0x10;
    refused("a flipped bit in a header", flipped, "taken back");
    refused(
        "a text file",
        b"this was never a backup, and it is longer than a header ".repeat(20),
        "no backup",
    );
    refused("no photograph", with(&|p| p.retain(|p| !p.name.ends_with(b".jpg"))), "is listed and missing");
    refused("no database", with(&|p| p.retain(|p| p.name != b"rainshadow.db")), "is listed and missing");
    refused("no manifest", with(&|p| p.truncate(p.len() - 1)), "no manifest");
    refused("an altered photograph", with(&|p| named(p, ".jpg").bytes[100] ^= 1), "size or contents differ");
    refused(
        "a shorter photograph",
        with(&|p| named(p, ".jpg").bytes.truncate(50)),
        "size or contents differ",
    );
    refused("two databases", with(&|p| p.insert(1, p[0].clone())), "“rainshadow.db” stands in it twice");
    let stray = |name: &[u8]| {
        let name = name.to_vec();
        move |p: &mut Vec<Part>| {
            let own = Part {
                name: name.clone(),
                kind: tar::EntryType::Regular,
                mode: 0o600,
                link: None,
                bytes: b"x".to_vec(),
            };
            p.insert(0, own);
        }
    };
    for name in [
        &b"../outside"[..],
        b"/etc/passwd",
        b"photos/../../x.jpg",
        b"rainshadow.lock",
        b"photos/ab.jpg",
        b"a.sh",
    ] {
        refused(&String::from_utf8_lossy(name), with(&stray(name)), "nothing that a backup holds");
    }
    let unlisted = [b"photos/".as_slice(), b"0".repeat(64).as_slice(), b".jpg"].concat();
    refused("an unlisted photograph", with(&stray(&unlisted)), "is in it and not listed");
    for kind in [tar::EntryType::Symlink, tar::EntryType::Link] {
        refused(
            "a link",
            with(&|p| {
                let photo = named(p, ".jpg");
                (photo.kind, photo.link, photo.bytes) = (kind, Some("/etc/passwd".into()), Vec::new());
            }),
            "no plain file",
        );
    }
    for kind in [tar::EntryType::Directory, tar::EntryType::Fifo, tar::EntryType::Char, tar::EntryType::Block]
    {
        refused(
            "a device",
            with(&|p| {
                let photo = named(p, ".jpg");
                (photo.kind, photo.bytes) = (kind, Vec::new());
            }),
            "no plain file",
        );
    }
    for mode in [0o4755, 0o777, 0o644, 0] {
        refused("an odd mode", with(&|p| named(p, ".jpg").mode = mode), "a backup gives every file 600");
    }
    refused(
        "a manifest of tomorrow",
        archive(&relisted(good.clone(), |m| m.format = "rainshadow-backup/2".into())),
        "this version reads",
    );
    refused(
        "a manifest that is none",
        with(&|p| named(p, "manifest.json").bytes = b"[1, 2".to_vec()),
        "manifest cannot be read",
    );
    refused(
        "other counts",
        archive(&relisted(good.clone(), |m| *m.database.rows.get_mut("reading").unwrap() += 1)),
        "rows of reading where",
    );
    refused(
        "a newer schema",
        archive(&relisted(good.clone(), |m| m.database.schema = 1)),
        "another than the one listed",
    );
    let swapped = |sql: &str| {
        let mut own = good.clone();
        let database = named(&mut own, "rainshadow.db");
        database.bytes = changed_database(&database.bytes, sql);
        archive(&relisted(own, |_| ()))
    };
    refused("a row lost", swapped("DELETE FROM reading WHERE seq = 5"), "rows of reading where");
    refused("rows that point nowhere", swapped("DELETE FROM site"), "point at rows that are not there");
    refused("of a newer version", swapped("PRAGMA user_version = 99"), "written by a newer version");
    refused("a foreign database", swapped("DROP TABLE reading"), "not one of Rainshadow");
    let mut broken = good.clone();
    let database = named(&mut broken, "rainshadow.db");
    database.bytes[4096 * 2..4096 * 9].fill(0xa5);
    refused("broken pages", archive(&relisted(broken, |_| ())), "its database is");
    let mut lost = good.clone();
    lost.retain(|p| !p.name.ends_with(b".jpg"));
    let mut manifest: Manifest = serde_json::from_slice(&named(&mut lost, "manifest.json").bytes).unwrap();
    manifest.files.retain(|f| f.name == "rainshadow.db");
    named(&mut lost, "manifest.json").bytes = serde_json::to_vec(&manifest).unwrap();
    refused("photographs nobody lists", archive(&lost), "is listed in the database and missing");
    // the untouched parts, put together again, are good: the changes above are what was refused
    let (_folder, path) = file_of(archive(&good));
    verify(&path, &indicatif::ProgressBar::hidden()).unwrap();
}

#[tokio::test(flavor = "multi_thread")]
async fn a_backup_of_an_older_version_is_taken_when_it_is_asked_for() {
    let (_out, file) = backed_up().await;
    let mut old = parts(&file);
    old.pop();
    for part in &mut old {
        part.mode = 0o644;
    }
    let (folder, path) = file_of(archive(&old));
    let target = folder.path().join("restored");
    let said = restore(&path, &target, false, &indicatif::ProgressBar::hidden()).unwrap_err().to_string();
    assert!(said.contains("644") || said.contains("--unverified"), "{said}");
    let manifest = restore(&path, &target, true, &indicatif::ProgressBar::hidden()).unwrap();
    assert_eq!((manifest.database.rows["bank"], manifest.photographs()), (6, 2));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_photograph_that_is_gone_or_altered_is_told_and_stops_no_backup() {
    let (out, file) = backed_up().await;
    let folder = out.path().join("folder");
    restore(&file, &folder, false, &indicatif::ProgressBar::hidden()).unwrap();
    let photos = folder.join("photos");
    let both = names(&photos);
    std::fs::remove_file(photos.join(&both[0])).unwrap();
    std::fs::write(photos.join(&both[1]), b"overwritten").unwrap();
    let db = rusqlite::Connection::open(folder.join("rainshadow.db")).unwrap();
    db.execute("UPDATE photo SET small_hash = '../../SECRET' WHERE rowid = 1", []).unwrap();
    drop(db);
    let again = out.path().join("again.tar");
    let manifest = write(&folder, &again).unwrap();
    let why: Vec<&str> = manifest.left_out.iter().map(|l| l.why.as_str()).collect();
    assert_eq!((manifest.photographs(), why.len()), (0, 3), "{why:?}");
    assert!(
        why.iter().any(|w| w.contains("altered")) && why.iter().any(|w| w.contains("no hash")),
        "{why:?}"
    );
    restore(&again, &out.path().join("back"), false, &indicatif::ProgressBar::hidden()).unwrap();
}
