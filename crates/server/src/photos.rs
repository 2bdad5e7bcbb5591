//! Photographs: decoded, turned upright, made smaller, stripped of everything but their pixels, and
//! kept as files named by their hash in the data folder.

use image::codecs::jpeg::JpegEncoder;
use image::imageops::FilterType;
use image::{DynamicImage, ImageDecoder, ImageFormat, ImageReader, Limits};
use sha2::{Digest, Sha256};
use std::fmt::Write as _;
use std::io::Cursor;
use std::path::{Path, PathBuf};
use thiserror::Error;

/// Largest file that is taken, bytes.
pub const LARGEST: usize = 25 * 1024 * 1024;
/// Longest side of a kept photograph, and of its small copy, pixels.
const LONG_SIDE: u32 = 1600;
const SMALL_SIDE: u32 = 360;
const QUALITY: u8 = 82;
/// More pixels than any phone takes: a small file can unpack to a bomb.
const MOST_PIXELS: u64 = 120_000_000;
/// Folder of the photographs under the data folder.
pub const FOLDER: &str = "photos";

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
    #[error("the photograph has more pixels than can be handled here; take a smaller one")]
    TooManyPixels,
    /// The disk.
    #[error("the photograph could not be written to the data folder: {0}")]
    Disk(#[from] std::io::Error),
}

/// A photograph as it is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Kept {
    /// Hash of its bytes, its file's name.
    pub hash: String,
    /// Hash of the small copy.
    pub small_hash: String,
    /// Width of the kept one, pixels.
    pub width: u32,
    /// Height.
    pub height: u32,
}

fn decoded(bytes: &[u8]) -> Result<DynamicImage, PhotoError> {
    let damaged = |e: image::ImageError| PhotoError::Damaged(e.to_string());
    let mut reader = ImageReader::new(Cursor::new(bytes)).with_guessed_format()?;
    if !matches!(reader.format(), Some(ImageFormat::Jpeg | ImageFormat::Png | ImageFormat::WebP)) {
        return Err(PhotoError::UnknownFormat);
    }
    if reader.format() == Some(ImageFormat::Jpeg) && !jpeg_is_whole(bytes) {
        return Err(PhotoError::Damaged("its end is missing".into()));
    }
    let mut limits = Limits::default();
    limits.max_alloc = Some(1024 * 1024 * 1024);
    reader.limits(limits);
    let mut decoder = reader.into_decoder().map_err(damaged)?;
    let (width, height) = decoder.dimensions();
    if u64::from(width) * u64::from(height) > MOST_PIXELS {
        return Err(PhotoError::TooManyPixels);
    }
    let orientation = decoder.orientation().map_err(damaged)?;
    let mut picture = DynamicImage::from_decoder(decoder).map_err(damaged)?;
    picture.apply_orientation(orientation);
    Ok(picture)
}

/// True when the picture itself has its end marker. The decoder paints what is missing grey; and a
/// small copy inside the header has an end of its own, so the header is stepped over.
fn jpeg_is_whole(bytes: &[u8]) -> bool {
    let mut at = 2;
    while let [0xff, marker, high, low, ..] = bytes.get(at..).unwrap_or_default() {
        let length = usize::from(u16::from_be_bytes([*high, *low]));
        at += 2 + length;
        // Start of scan: the picture follows.
        if *marker == 0xda {
            let picture = bytes.get(at..).unwrap_or_default();
            return picture.windows(2).any(|pair| pair == [0xff, 0xd9]);
        }
    }
    false
}

fn fitted(picture: &DynamicImage, side: u32) -> DynamicImage {
    if picture.width().max(picture.height()) <= side {
        return picture.clone();
    }
    picture.resize(side, side, FilterType::Triangle)
}

/// JPEG without a word of where and when it was taken.
fn encoded(picture: &DynamicImage) -> Result<Vec<u8>, PhotoError> {
    let mut bytes = Vec::new();
    JpegEncoder::new_with_quality(&mut bytes, QUALITY)
        .encode_image(&picture.to_rgb8())
        .map_err(|e| PhotoError::Damaged(e.to_string()))?;
    Ok(bytes)
}

/// Bytes as hexadecimal text.
pub fn hex(bytes: &[u8]) -> String {
    bytes.iter().fold(String::new(), |mut text, byte| {
        let _ = write!(text, "{byte:02x}");
        text
    })
}

fn hash_of(bytes: &[u8]) -> String {
    hex(&Sha256::digest(bytes))
}

/// Where a photograph lies.
pub fn file_of(folder: &Path, hash: &str) -> PathBuf {
    folder.join(FOLDER).join(format!("{hash}.jpg"))
}

/// True for the text of a hash: 64 hexadecimal digits, and no path.
pub fn is_hash(text: &str) -> bool {
    text.len() == 64 && text.bytes().all(|b| b.is_ascii_digit() || (b'a'..=b'f').contains(&b))
}

/// The bytes of a photograph.
///
/// # Errors
/// Whatever the file system fails with.
pub fn read(folder: &Path, hash: &str) -> std::io::Result<Vec<u8>> {
    std::fs::read(file_of(folder, hash))
}

/// Writes bytes under their hash; a file that is there already is the same one.
fn write(folder: &Path, bytes: &[u8]) -> Result<String, PhotoError> {
    let hash = hash_of(bytes);
    let file = file_of(folder, &hash);
    if !file.exists() {
        crate::db::folder::make_private(&folder.join(FOLDER))?;
        // Under another name first: a file of this name is always whole.
        let part = file.with_extension(format!("part-{}", uuid::Uuid::now_v7()));
        let out = std::fs::File::create(&part)?;
        std::io::Write::write_all(&mut &out, bytes)?;
        out.sync_all()?;
        std::fs::rename(&part, &file)?;
    }
    Ok(hash)
}

/// Takes a photograph as it was sent, and keeps it in the folder.
///
/// # Errors
/// [`PhotoError`] as a sentence for the person who sent it.
pub fn take(folder: &Path, bytes: &[u8]) -> Result<Kept, PhotoError> {
    if bytes.is_empty() {
        return Err(PhotoError::Empty);
    }
    if bytes.len() > LARGEST {
        return Err(PhotoError::TooLarge(bytes.len()));
    }
    let picture = fitted(&decoded(bytes)?, LONG_SIDE);
    let small = fitted(&picture, SMALL_SIDE);
    Ok(Kept {
        hash: write(folder, &encoded(&picture)?)?,
        small_hash: write(folder, &encoded(&small)?)?,
        width: picture.width(),
        height: picture.height(),
    })
}

/// Takes a file of an export as it is: it was made by [`take`] elsewhere.
///
/// # Errors
/// [`PhotoError`] for anything that is no photograph.
pub fn take_back(folder: &Path, bytes: &[u8]) -> Result<String, PhotoError> {
    decoded(bytes)?;
    write(folder, bytes)
}

#[cfg(test)]
mod tests {
    use super::*;

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
        let left = std::fs::read_dir(folder.path().join(FOLDER)).map_or(0, Iterator::count);
        assert_eq!(left, 0, "nothing of it is kept");
    }

    #[test]
    fn the_same_photograph_again_is_one_file() {
        let folder = tempfile::tempdir().unwrap();
        let jpeg = bytes(&picture(500, 300), ImageFormat::Jpeg);
        assert_eq!(take(folder.path(), &jpeg).unwrap(), take(folder.path(), &jpeg).unwrap());
        assert_eq!(std::fs::read_dir(folder.path().join(FOLDER)).unwrap().count(), 2);
    }
}
