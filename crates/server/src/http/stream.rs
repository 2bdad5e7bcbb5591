//! Answers with photographs in them, sent piece by piece: whoever reads slowly makes nobody hold much.

use axum::body::{Body, Bytes};
use base64::Engine as _;
use base64::engine::general_purpose::STANDARD;
use std::convert::Infallible;
use tokio_stream::wrappers::ReceiverStream;

/// Pieces that wait for a slow reader.
const WAITING: usize = 2;

/// Bytes that are encoded at a time: by threes, so that the pieces make one text.
const THREES: usize = 3 * 16 * 1024;

/// Takes the pieces of an answer.
pub struct Pieces(tokio::sync::mpsc::Sender<Result<Bytes, Infallible>>);

impl Pieces {
    /// Sends one; false when nobody reads any more.
    pub fn send(&self, piece: impl Into<Bytes>) -> bool {
        self.0.blocking_send(Ok(piece.into())).is_ok()
    }
}

impl Pieces {
    /// Sends bytes as base64, in small pieces; false when nobody reads any more.
    pub fn send_base64(&self, bytes: &[u8]) -> bool {
        bytes.chunks(THREES).all(|part| self.send(STANDARD.encode(part)))
    }
}

/// An answer that is made on a worker thread while it is read.
pub fn streamed(make: impl FnOnce(&Pieces) + Send + 'static) -> Body {
    let (send, receive) = tokio::sync::mpsc::channel(WAITING);
    tokio::task::spawn_blocking(move || make(&Pieces(send)));
    Body::from_stream(ReceiverStream::new(receive))
}
