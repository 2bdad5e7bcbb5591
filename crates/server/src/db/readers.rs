//! Connections that read, lent to whoever comes: the first that is free goes to the one who waits longest.

use rusqlite::Connection;
use std::sync::{Condvar, Mutex, PoisonError};

/// The connections that nobody reads with, and word of each that comes back.
pub(super) struct Readers {
    free: Mutex<Vec<Connection>>,
    came_back: Condvar,
}

/// A connection on loan; it comes back however the reading ends.
struct Lent<'a> {
    from: &'a Readers,
    connection: Option<Connection>,
}

impl Drop for Lent<'_> {
    fn drop(&mut self) {
        let mut free = self.from.free.lock().unwrap_or_else(PoisonError::into_inner);
        free.extend(self.connection.take());
        self.from.came_back.notify_one();
    }
}

impl Readers {
    pub(super) fn new(connections: Vec<Connection>) -> Self {
        Self { free: Mutex::new(connections), came_back: Condvar::new() }
    }

    /// Reads with a connection of its own; waits until one is free.
    pub(super) fn with<T>(&self, work: impl FnOnce(&Connection) -> T) -> T {
        let free = self.free.lock().unwrap_or_else(PoisonError::into_inner);
        let mut free =
            self.came_back.wait_while(free, |free| free.is_empty()).unwrap_or_else(PoisonError::into_inner);
        let lent = Lent { from: self, connection: free.pop() };
        drop(free);
        match &lent.connection {
            Some(connection) => work(connection),
            None => unreachable!("waited until there was one"),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::sync::mpsc::channel;

    fn two() -> Readers {
        Readers::new(vec![Connection::open_in_memory().unwrap(), Connection::open_in_memory().unwrap()])
    }

    #[test]
    fn nobody_waits_for_a_busy_reader_while_the_other_is_free() {
        let readers = two();
        let (let_go, until) = channel::<()>();
        let (second, done) = channel::<()>();
        let (in_first, first_in) = channel::<()>();
        std::thread::scope(|scope| {
            // one reads for as long as it is let
            let readers = &readers;
            scope.spawn(move || {
                readers.with(|_| {
                    in_first.send(()).unwrap();
                    until.recv().unwrap();
                });
            });
            first_in.recv().unwrap();
            // twenty come while it is busy: each finds the other one, by turns
            for _ in 0..20 {
                let second = second.clone();
                scope.spawn(move || readers.with(|_| second.send(()).unwrap()));
            }
            for _ in 0..20 {
                done.recv().unwrap();
            }
            let_go.send(()).unwrap();
        });
        assert_eq!(readers.free.lock().unwrap().len(), 2);
    }

    #[test]
    fn a_reading_that_panics_gives_its_connection_back() {
        let readers = two();
        let broken = std::panic::catch_unwind(std::panic::AssertUnwindSafe(|| {
            readers.with(|_| panic!("in a handler"));
        }));
        assert!(broken.is_err());
        assert_eq!(readers.free.lock().unwrap().len(), 2);
    }
}
