//! Few pictures are decoded at a time.

use super::{PhotoError, picture};
use std::sync::Arc;
use tokio::sync::{OwnedSemaphorePermit, Semaphore};

/// Pictures that are decoded at once, and the megabytes that they may take together.
const AT_ONCE: usize = 2;
const MEGABYTES: u32 = 176;

/// Lets few pictures be decoded at a time: unpacked, a photograph takes a hundred times its file.
#[derive(Debug, Clone)]
pub struct Gate {
    pictures: Arc<Semaphore>,
    megabytes: Arc<Semaphore>,
}

impl Default for Gate {
    fn default() -> Self {
        Self {
            pictures: Arc::new(Semaphore::new(AT_ONCE)),
            megabytes: Arc::new(Semaphore::new(MEGABYTES as usize)),
        }
    }
}

impl Gate {
    /// Waits until this picture may be decoded.
    ///
    /// # Errors
    /// [`PhotoError`] for what is no picture, or too large a one.
    pub async fn pass(&self, bytes: &[u8]) -> Result<Option<[OwnedSemaphorePermit; 2]>, PhotoError> {
        let room = picture::megabytes(bytes)?.min(MEGABYTES);
        let one = Arc::clone(&self.pictures).acquire_owned().await;
        let room = Arc::clone(&self.megabytes).acquire_many_owned(room).await;
        Ok(one.ok().zip(room.ok()).map(|(one, room)| [one, room]))
    }
}
