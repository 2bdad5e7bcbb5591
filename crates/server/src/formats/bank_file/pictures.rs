//! The photographs in the file of a bank: written beside the others while the file is read, so that no
//! more than one is in memory.

use crate::photos;
use base64::Engine as _;
use base64::engine::general_purpose::STANDARD;
use serde::de::{Deserialize, Deserializer, Error, MapAccess, Visitor};
use serde::ser::{Serialize, SerializeMap, Serializer};
use std::cell::RefCell;
use std::collections::BTreeSet;
use std::fmt;
use std::path::{Path, PathBuf};

/// Hashes of the photographs that a file brings.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Pictures(pub BTreeSet<String>);

thread_local! {
    /// Where the photographs of the file that is read on this thread go.
    static INTO: RefCell<Option<Staged>> = const { RefCell::new(None) };
}

/// Photographs that were written and have no names yet.
#[derive(Debug, Default)]
pub struct Staged {
    folder: PathBuf,
    own: String,
    hashes: Vec<String>,
}

impl Staged {
    /// Reads a file with its photographs going into this folder; what was written is answered beside.
    pub fn while_reading<T>(folder: &Path, read: impl FnOnce() -> T) -> (T, Self) {
        let own = uuid::Uuid::now_v7().simple().to_string();
        let staged = Self { folder: folder.to_owned(), own, hashes: Vec::new() };
        INTO.with_borrow_mut(|into| *into = Some(staged));
        let done = read();
        (done, INTO.with_borrow_mut(Option::take).unwrap_or_default())
    }

    fn take(&mut self, bytes: &[u8]) -> Result<String, photos::PhotoError> {
        let hash = photos::stage(&self.folder, bytes, &self.own)?;
        self.hashes.push(hash.clone());
        Ok(hash)
    }

    /// Gives the photographs their names.
    ///
    /// # Errors
    /// Whatever the file system fails with.
    pub fn name(&self) -> std::io::Result<()> {
        photos::name_staged(&self.folder, &self.hashes, &self.own)
    }

    /// Takes them away again.
    pub fn forget(&self) {
        photos::forget_staged(&self.folder, &self.hashes, &self.own);
    }
}

struct Read;

impl<'de> Visitor<'de> for Read {
    type Value = Pictures;

    fn expecting(&self, formatter: &mut fmt::Formatter<'_>) -> fmt::Result {
        formatter.write_str("photographs as base64 of their JPEG, by their hash")
    }

    fn visit_map<A: MapAccess<'de>>(self, mut map: A) -> Result<Pictures, A::Error> {
        let mut hashes = BTreeSet::new();
        while let Some(hash) = map.next_key::<String>()? {
            let named = |said: &str| A::Error::custom(format!("the photograph {} {said}", short(&hash)));
            if !photos::is_hash(&hash) {
                return Err(named("is not named by a hash of 64 hexadecimal digits"));
            }
            let text: String = map.next_value()?;
            let bytes = STANDARD.decode(text).map_err(|_base64| named("is not base64 of a JPEG"))?;
            let kept = INTO.with_borrow_mut(|into| match into {
                Some(staged) => staged.take(&bytes).map_err(|e| named(&format!("is not taken: {e}"))),
                // Looked at, not taken in: for whoever only reads the file.
                None => Ok(photos::hash_of(&bytes)),
            })?;
            if kept != hash {
                return Err(named("is not the one its hash names"));
            }
            hashes.insert(hash);
        }
        Ok(Pictures(hashes))
    }
}

/// The beginning of what is said to be a hash.
fn short(hash: &str) -> String {
    hash.chars().take(12).collect()
}

impl<'de> Deserialize<'de> for Pictures {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        deserializer.deserialize_map(Read)
    }
}

impl Serialize for Pictures {
    /// Their bytes are written by whoever writes the file, one after the other.
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_map(Some(0))?.end()
    }
}

impl utoipa::PartialSchema for Pictures {
    fn schema() -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
        std::collections::BTreeMap::<String, String>::schema()
    }
}

impl utoipa::ToSchema for Pictures {}
