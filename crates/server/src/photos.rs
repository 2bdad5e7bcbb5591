//! Photographs: kept as files named by their hash in the data folder, made smaller and stripped of
//! everything but their pixels.
//!
//! A file is written under a name of its own, then its row is committed, then it gets its name: what a
//! crash leaves behind is told apart at the next start, and no file of a row that was refused stays.

mod gate;
mod picture;

pub use gate::Gate;

pub use crate::db::folder::PHOTOS as FOLDER;
use sha2::{Digest, Sha256};
use std::fmt::Write as _;
use std::path::{Path, PathBuf};
use thiserror::Error;

/// Largest file that is taken, bytes.
pub const LARGEST: usize = 25 * 1024 * 1024;
/// Between the hash and what tells one sender from another, while the row is not committed.
const NEW: &str = ".jpg-new-";
/// Why a photograph was not taken.
#[derive(Debug, Error)]
pub enum PhotoError {
    /// Too many bytes.
    #[error("the photograph has {} MB; up to {} MB are taken", .0 / 1024 / 1024, LARGEST / 1024 / 1024)]
    TooLarge(usize),
    /// No bytes.
    #[error("the file is empty; a photograph as JPEG, PNG or WebP is expected")]
    Empty,
    /// Not a picture this program reads.
    #[error("this is no photograph that can be read here: JPEG, PNG and WebP are taken")]
    UnknownFormat,
    /// Broken in the middle.
    #[error("the photograph is damaged or cut off ({0}); take or choose it again")]
    Damaged(String),
    /// A bomb.
    #[error("the photograph has more than 40 megapixels, or as many of double depth; take a smaller one")]
    TooManyPixels,
    /// The disk.
    #[error("the photograph could not be written to the data folder: {0}")]
    Disk(#[from] std::io::Error),
}

/// A photograph as it is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PhotoFiles {
    /// Hash of its bytes, its file's name.
    pub hash: String,
    /// Hash of the small copy.
    pub small_hash: String,
    /// Width of the kept one, pixels.
    pub width: u32,
    /// Height.
    pub height: u32,
}

/// Bytes as hexadecimal text.
pub fn hex(bytes: &[u8]) -> String {
    bytes.iter().fold(String::new(), |mut text, byte| {
        let _ = write!(text, "{byte:02x}");
        text
    })
}

/// The hash of a file's bytes, its name.
pub fn hash_of(bytes: &[u8]) -> String {
    hex(&Sha256::digest(bytes))
}

/// True for the text of a hash: 64 hexadecimal digits, and no path.
pub fn is_hash(text: &str) -> bool {
    text.len() == 64 && text.bytes().all(|b| b.is_ascii_digit() || (b'a'..=b'f').contains(&b))
}

/// Where a photograph lies.
fn file_of(folder: &Path, hash: &str) -> PathBuf {
    folder.join(FOLDER).join(format!("{hash}.jpg"))
}

/// The bytes of a photograph.
///
/// # Errors
/// Whatever the file system fails with.
pub fn read(folder: &Path, hash: &str) -> std::io::Result<Vec<u8>> {
    if !is_hash(hash) {
        return Err(std::io::ErrorKind::NotFound.into());
    }
    match std::fs::read(file_of(folder, hash)) {
        Err(error) if error.kind() == std::io::ErrorKind::NotFound => {
            // Committed a moment ago, and not named yet.
            let begins = format!("{hash}{NEW}");
            let new = names(folder).into_iter().find(|name| name.starts_with(&begins)).ok_or(error)?;
            std::fs::read(folder.join(FOLDER).join(new))
        }
        other => other,
    }
}

/// True when the file of a photograph is there.
pub fn is_there(folder: &Path, hash: &str) -> bool {
    is_hash(hash) && file_of(folder, hash).exists()
}

/// Names of all files in the folder of the photographs.
pub fn names(folder: &Path) -> Vec<String> {
    let entries = std::fs::read_dir(folder.join(FOLDER)).into_iter().flatten().flatten();
    entries.filter_map(|e| e.file_name().into_string().ok()).collect()
}

/// A photograph that is made and not stored yet.
pub struct Prepared {
    /// As it will be kept.
    pub files: PhotoFiles,
    bytes: [(String, Vec<u8>); 2],
    /// Tells its files from those of another sender of the same picture.
    own: String,
}

/// Makes of a photograph as it was sent what is kept of it.
///
/// # Errors
/// [`PhotoError`] as a sentence for the person who sent it.
pub fn prepare(bytes: &[u8]) -> Result<Prepared, PhotoError> {
    let made = picture::make(bytes)?;
    let (hash, small_hash) = (hash_of(&made.large), hash_of(&made.small));
    Ok(Prepared {
        files: PhotoFiles {
            hash: hash.clone(),
            small_hash: small_hash.clone(),
            width: made.width,
            height: made.height,
        },
        bytes: [(hash, made.large), (small_hash, made.small)],
        own: uuid::Uuid::now_v7().simple().to_string(),
    })
}

/// Refuses by size what need not be decoded.
///
/// # Errors
/// [`PhotoError`] for nothing, and for too much.
pub fn sized(bytes: &[u8]) -> Result<(), PhotoError> {
    match bytes.len() {
        0 => Err(PhotoError::Empty),
        size if size > LARGEST => Err(PhotoError::TooLarge(size)),
        _ => Ok(()),
    }
}

fn write_new(path: &Path, bytes: &[u8]) -> std::io::Result<()> {
    let mut options = std::fs::File::options();
    let mut out = crate::db::folder::private(options.create_new(true).write(true)).open(path)?;
    std::io::Write::write_all(&mut out, bytes)?;
    out.sync_all()
}

fn new_file(folder: &Path, hash: &str, own: &str) -> PathBuf {
    folder.join(FOLDER).join(format!("{hash}{NEW}{own}"))
}

fn write_staged(folder: &Path, hash: &str, bytes: &[u8], own: &str) -> std::io::Result<()> {
    crate::db::folder::make_private(&folder.join(FOLDER))?;
    let path = new_file(folder, hash, own);
    if is_there(folder, hash) || path.exists() {
        return Ok(());
    }
    write_new(&path, bytes).inspect_err(|_| drop(std::fs::remove_file(&path)))
}

/// Gives staged files their names; called when their rows are committed. Where this fails, the next
/// start does it.
///
/// # Errors
/// Whatever the file system fails with.
pub fn name_staged(folder: &Path, hashes: &[String], own: &str) -> std::io::Result<()> {
    for hash in hashes {
        let path = new_file(folder, hash, own);
        if path.exists() {
            std::fs::rename(path, file_of(folder, hash))?;
        }
    }
    if hashes.is_empty() { Ok(()) } else { crate::db::folder::sync(&folder.join(FOLDER)) }
}

/// Takes staged files away again: their rows were refused.
pub fn forget_staged(folder: &Path, hashes: &[String], own: &str) {
    for hash in hashes {
        let _ = std::fs::remove_file(new_file(folder, hash, own));
    }
}

impl Prepared {
    fn hashes(&self) -> [String; 2] {
        [self.files.hash.clone(), self.files.small_hash.clone()]
    }

    /// Writes the files under names of their own; called before the row is committed.
    ///
    /// # Errors
    /// Whatever the file system fails with; nothing is left then.
    pub fn write(&self, folder: &Path) -> std::io::Result<()> {
        for (hash, bytes) in &self.bytes {
            write_staged(folder, hash, bytes, &self.own).inspect_err(|_| self.forget(folder))?;
        }
        crate::db::folder::sync(&folder.join(FOLDER))
    }

    /// Gives the files their names; called when the row is committed.
    ///
    /// # Errors
    /// Whatever the file system fails with.
    pub fn name(&self, folder: &Path) -> std::io::Result<()> {
        name_staged(folder, &self.hashes(), &self.own)
    }

    /// Takes the files away again: the row was refused.
    pub fn forget(&self, folder: &Path) {
        forget_staged(folder, &self.hashes(), &self.own);
    }
}

/// Looks after what a crash left: files whose row was committed get their names, all others that never
/// had one go. A file with a name is never touched. How many went.
///
/// # Errors
/// Whatever the file system fails with.
pub fn sweep(folder: &Path, listed: impl Fn(&str) -> bool) -> std::io::Result<usize> {
    let mut gone = 0;
    for name in names(folder) {
        let path = folder.join(FOLDER).join(&name);
        match name.split_once(NEW) {
            Some((hash, _)) if is_hash(hash) && listed(hash) => std::fs::rename(path, file_of(folder, hash))?,
            // A version before this one wrote parts.
            None if !name.contains(".part-") => {}
            _ => {
                std::fs::remove_file(path)?;
                gone += 1;
            }
        }
    }
    Ok(gone)
}

/// A photograph of a file of a bank, as it was made by [`prepare`] elsewhere: looked at, and written under
/// a name of its own as it is.
///
/// # Errors
/// [`PhotoError`] for anything that is no photograph, or larger than any that is kept.
pub fn stage(folder: &Path, bytes: &[u8], own: &str) -> Result<String, PhotoError> {
    sized(bytes)?;
    picture::check(bytes)?;
    let hash = hash_of(bytes);
    write_staged(folder, &hash, bytes, own)?;
    Ok(hash)
}

#[cfg(test)]
mod tests {
    use super::*;
    use image::{DynamicImage, ImageFormat};
    use std::io::Cursor;

    /// As a handler does, with the row committed.
    fn take(folder: &Path, bytes: &[u8]) -> Result<PhotoFiles, PhotoError> {
        sized(bytes)?;
        let prepared = prepare(bytes)?;
        prepared.write(folder)?;
        prepared.name(folder)?;
        Ok(prepared.files)
    }

    fn picture(width: u32, height: u32) -> DynamicImage {
        DynamicImage::ImageRgb8(image::RgbImage::from_fn(width, height, |x, y| {
            image::Rgb([u8::try_from(x % 256).unwrap(), u8::try_from(y % 256).unwrap(), 90])
        }))
    }

    fn bytes(picture: &DynamicImage, format: ImageFormat) -> Vec<u8> {
        let mut out = Cursor::new(Vec::new());
        picture.write_to(&mut out, format).unwrap();
        out.into_inner()
    }

    #[test]
    fn the_three_formats_are_taken_and_made_smaller() {
        let folder = tempfile::tempdir().unwrap();
        for format in [ImageFormat::Jpeg, ImageFormat::Png, ImageFormat::WebP] {
            let kept = take(folder.path(), &bytes(&picture(2000, 1000), format)).unwrap();
            assert_eq!((kept.width, kept.height), (1600, 800), "{format:?}");
            let small = image::open(file_of(folder.path(), &kept.small_hash)).unwrap();
            assert_eq!(small.width(), 360);
        }
        let kept = take(folder.path(), &bytes(&picture(300, 200), ImageFormat::Png)).unwrap();
        assert_eq!((kept.width, kept.height), (300, 200), "small ones are not blown up");
    }

    #[test]
    fn a_turned_photograph_stands_upright_and_says_nothing_of_where_it_was_taken() {
        // a JPEG with an Exif block: orientation 6 (turned by a quarter) and a telltale text
        let plain = bytes(&picture(80, 40), ImageFormat::Jpeg);
        let mut tiff = b"II*\0\x08\0\0\0\x01\0\x12\x01\x03\0\x01\0\0\0\x06\0\0\0\0\0\0\0".to_vec();
        tiff.extend(b"GPS 47N 8E");
        let mut exif = b"Exif\0\0".to_vec();
        exif.extend(tiff);
        let mut turned = plain[..2].to_vec();
        turned.extend([0xff, 0xe1]);
        turned.extend(u16::try_from(exif.len() + 2).unwrap().to_be_bytes());
        turned.extend(exif);
        turned.extend(&plain[2..]);
        let folder = tempfile::tempdir().unwrap();
        let kept = take(folder.path(), &turned).unwrap();
        assert_eq!((kept.width, kept.height), (40, 80));
        let stored = std::fs::read(file_of(folder.path(), &kept.hash)).unwrap();
        for gone in [&b"Exif"[..], b"GPS"] {
            assert!(!stored.windows(gone.len()).any(|w| w == gone), "{}", String::from_utf8_lossy(gone));
        }
    }

    #[test]
    fn what_is_no_whole_photograph_is_refused_in_words() {
        let folder = tempfile::tempdir().unwrap();
        let say = |bytes: &[u8]| take(folder.path(), bytes).unwrap_err().to_string();
        assert!(say(b"").contains("is empty"));
        assert!(say(b"this is a text file named .jpg").contains("JPEG, PNG and WebP are taken"));
        let png = bytes(&picture(400, 400), ImageFormat::Png);
        assert!(say(&png[..png.len() / 2]).contains("damaged or cut off"));
        let jpeg = bytes(&picture(400, 400), ImageFormat::Jpeg);
        assert!(say(&jpeg[..jpeg.len() / 3]).contains("damaged or cut off"));
        assert!(say(&vec![0; LARGEST + 1]).contains("up to 25 MB"));
        assert!(names(folder.path()).is_empty(), "nothing of it is kept");
    }

    #[test]
    fn the_same_photograph_again_is_one_file() {
        let folder = tempfile::tempdir().unwrap();
        let jpeg = bytes(&picture(500, 300), ImageFormat::Jpeg);
        assert_eq!(take(folder.path(), &jpeg).unwrap(), take(folder.path(), &jpeg).unwrap());
        assert_eq!(std::fs::read_dir(folder.path().join(FOLDER)).unwrap().count(), 2);
    }

    #[test]
    fn what_a_crash_left_gets_its_name_when_its_row_is_there_and_goes_when_not() {
        let folder = tempfile::tempdir().unwrap();
        let kept = take(folder.path(), &bytes(&picture(50, 40), ImageFormat::Png)).unwrap();
        let committed = prepare(&bytes(&picture(60, 40), ImageFormat::Png)).unwrap();
        let refused = prepare(&bytes(&picture(70, 40), ImageFormat::Png)).unwrap();
        committed.write(folder.path()).unwrap();
        refused.write(folder.path()).unwrap();
        std::fs::write(folder.path().join(FOLDER).join("0.part-1"), "half").unwrap();
        // its row is committed: it is read before it has its name
        assert!(read(folder.path(), &committed.files.hash).is_ok());
        assert!(!is_there(folder.path(), &committed.files.hash));
        sweep(folder.path(), |hash| hash == committed.files.hash).unwrap();
        let mut left = names(folder.path());
        left.sort();
        let mut wanted = vec![format!("{}.jpg", kept.hash), format!("{}.jpg", committed.files.hash)];
        wanted.sort();
        assert_eq!(left, wanted);
    }

    #[test]
    fn a_bomb_is_refused_by_its_header() {
        // a PNG of 7000 by 7000: 49 megapixels in a few bytes
        let mut png = bytes(&picture(8, 8), ImageFormat::Png);
        png[16..24].copy_from_slice(&[0, 0, 0x1b, 0x58, 0, 0, 0x1b, 0x58]);
        let said = prepare(&png).err().unwrap().to_string();
        assert!(said.contains("40 megapixels") || said.contains("damaged"), "{said}");
        assert!(matches!(
            prepare(&bytes(&DynamicImage::new_rgb8(6500, 6500), ImageFormat::Png)),
            Err(PhotoError::TooManyPixels)
        ));
    }

    #[test]
    fn a_hash_is_no_path() {
        assert!(is_hash(&"a1".repeat(32)));
        for odd in ["../../SECRET", "", &"A1".repeat(32), &"a1".repeat(31), &"g1".repeat(32)] {
            assert!(!is_hash(odd), "{odd}");
            assert!(read(Path::new("/"), odd).is_err());
        }
    }
}
