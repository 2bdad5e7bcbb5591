//! Answers with photographs in them, sent piece by piece: whoever reads slowly makes nobody hold much.

use axum::body::{Body, Bytes};
use std::convert::Infallible;
use tokio_stream::wrappers::ReceiverStream;

/// Pieces that wait for a slow reader.
const WAITING: usize = 2;

/// Takes the pieces of an answer.
pub struct Pieces(tokio::sync::mpsc::Sender<Result<Bytes, Infallible>>);

impl Pieces {
    /// Sends one; false when nobody reads any more.
    pub fn send(&self, piece: impl Into<Bytes>) -> bool {
        self.0.blocking_send(Ok(piece.into())).is_ok()
    }
}

/// An answer that is made on a worker thread while it is read.
pub fn streamed(make: impl FnOnce(&Pieces) + Send + 'static) -> Body {
    let (send, receive) = tokio::sync::mpsc::channel(WAITING);
    tokio::task::spawn_blocking(move || make(&Pieces(send)));
    Body::from_stream(ReceiverStream::new(receive))
}
