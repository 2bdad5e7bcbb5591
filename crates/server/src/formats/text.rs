//! Bytes of a file or a paste into text, whatever wrote it.

use thiserror::Error;

/// Why bytes are no text.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum TextError {
    /// Nothing in it.
    #[error("the file is empty; a header line with `cell` and one date per column is expected")]
    Empty,
    /// Not text.
    #[error("the file is not text; save it from the spreadsheet as CSV (UTF-8 or UTF-16)")]
    NotText,
}

/// UTF-8 with or without a mark, UTF-16 with one.
///
/// # Errors
/// [`TextError`] for an empty or binary file.
pub fn decode(bytes: &[u8]) -> Result<String, TextError> {
    let (encoding, mark) = encoding_rs::Encoding::for_bom(bytes).unwrap_or((encoding_rs::UTF_8, 0));
    let (text, broken) = encoding.decode_without_bom_handling(&bytes[mark..]);
    if broken || text.contains('\0') {
        return Err(TextError::NotText);
    }
    if text.trim().is_empty() {
        return Err(TextError::Empty);
    }
    Ok(text.into_owned())
}

/// The same with plain line ends, so that a line is counted as a spreadsheet counts it.
pub fn plain_line_ends(text: &str) -> String {
    text.replace("\r\n", "\n")
}

/// The sign between fields: the commonest of tab, semicolon and comma in the header.
pub fn delimiter(header: &str) -> u8 {
    [b'\t', b';', b','].into_iter().max_by_key(|d| header.bytes().filter(|b| b == d).count()).unwrap_or(b',')
}

#[cfg(test)]
mod tests {
    use super::*;

    fn utf16(text: &str, big: bool) -> Vec<u8> {
        let mark = std::iter::once(0xFEFFu16);
        mark.chain(text.encode_utf16())
            .flat_map(|unit| if big { unit.to_be_bytes() } else { unit.to_le_bytes() })
            .collect()
    }

    #[test]
    fn marks_and_utf_16_are_understood() {
        let text = "cell,2025-03-14\nA1-1,265\n";
        for bytes in [
            text.as_bytes().to_vec(),
            [b"\xEF\xBB\xBF", text.as_bytes()].concat(),
            utf16(text, false),
            utf16(text, true),
        ] {
            assert_eq!(decode(&bytes).unwrap(), text);
        }
    }

    #[test]
    fn pictures_and_nothing_are_refused() {
        assert_eq!(decode(b""), Err(TextError::Empty));
        assert_eq!(decode(b"\xEF\xBB\xBF \n"), Err(TextError::Empty));
        assert_eq!(decode(b"\x89PNG\r\n\x1a\n\x00\x00"), Err(TextError::NotText));
    }
}
