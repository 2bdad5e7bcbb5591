//! One picture: decoded, made smaller, turned upright, written as JPEG without a word of where and when
//! it was taken.

use super::PhotoError;
use image::codecs::jpeg::JpegEncoder;
use image::imageops::FilterType;
use image::{DynamicImage, ImageDecoder, ImageFormat, ImageReader, Limits};
use std::io::Cursor;

/// Longest side of a kept photograph, and of its small copy, pixels.
const LONG_SIDE: u32 = 1600;
const SMALL_SIDE: u32 = 360;
const QUALITY: u8 = 82;
/// More pixels than are handled here: a small file can unpack to a bomb.
const MOST_PIXELS: u64 = 40_000_000;
/// Bytes that one decoded picture may take: 40 megapixels of four channels.
const MOST_BYTES: u64 = 4 * MOST_PIXELS + 16 * 1024 * 1024;

/// A photograph as it will be kept.
pub struct Made {
    /// JPEG.
    pub large: Vec<u8>,
    /// The small copy.
    pub small: Vec<u8>,
    /// Width of the large one, pixels.
    pub width: u32,
    /// Height.
    pub height: u32,
}

fn damaged(error: image::ImageError) -> PhotoError {
    match error {
        image::ImageError::Limits(_) => PhotoError::TooManyPixels,
        other => PhotoError::Damaged(other.to_string()),
    }
}

/// A decoder that has read the header alone.
fn opened(bytes: &[u8]) -> Result<impl ImageDecoder + '_, PhotoError> {
    let mut reader = ImageReader::new(Cursor::new(bytes)).with_guessed_format()?;
    if !matches!(reader.format(), Some(ImageFormat::Jpeg | ImageFormat::Png | ImageFormat::WebP)) {
        return Err(PhotoError::UnknownFormat);
    }
    if reader.format() == Some(ImageFormat::Jpeg) && !jpeg_is_whole(bytes) {
        return Err(PhotoError::Damaged("its end is missing".into()));
    }
    let mut limits = Limits::default();
    limits.max_alloc = Some(MOST_BYTES);
    reader.limits(limits);
    let decoder = reader.into_decoder().map_err(damaged)?;
    let (width, height) = decoder.dimensions();
    if u64::from(width) * u64::from(height) > MOST_PIXELS || decoder.total_bytes() > MOST_BYTES {
        return Err(PhotoError::TooManyPixels);
    }
    Ok(decoder)
}

/// Megabytes that decoding a picture takes, from its header alone.
pub fn megabytes(bytes: &[u8]) -> Result<u32, PhotoError> {
    let decoder = opened(bytes)?;
    Ok(u32::try_from(decoder.total_bytes() / (1024 * 1024)).unwrap_or(u32::MAX).max(1))
}

/// The picture, no longer than a side; the whole one is gone when this returns.
fn decoded(bytes: &[u8], side: u32) -> Result<DynamicImage, PhotoError> {
    let mut decoder = opened(bytes)?;
    let orientation = decoder.orientation().map_err(damaged)?;
    let picture = {
        let whole = DynamicImage::from_decoder(decoder).map_err(damaged)?;
        // Coarsely first: a fine filter over all of it would need as much memory again.
        if whole.width().max(whole.height()) > 4 * side { whole.thumbnail(2 * side, 2 * side) } else { whole }
    };
    let mut picture = fitted(&picture, side);
    picture.apply_orientation(orientation);
    Ok(picture)
}

/// Looks whether a picture that is kept as it is can be decoded whole, and is no larger than those made
/// here.
pub fn check(bytes: &[u8]) -> Result<(), PhotoError> {
    let decoder = opened(bytes)?;
    let (width, height) = decoder.dimensions();
    if width.max(height) > LONG_SIDE {
        return Err(PhotoError::TooManyPixels);
    }
    DynamicImage::from_decoder(decoder).map_err(damaged)?;
    Ok(())
}

/// A picture as it was sent, as it will be kept.
pub fn make(bytes: &[u8]) -> Result<Made, PhotoError> {
    let picture = decoded(bytes, LONG_SIDE)?;
    let small = fitted(&picture, SMALL_SIDE);
    Ok(Made {
        large: encoded(&picture)?,
        small: encoded(&small)?,
        width: picture.width(),
        height: picture.height(),
    })
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
