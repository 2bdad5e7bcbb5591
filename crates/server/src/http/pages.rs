//! Answers kept for as long as nothing was written: a page that many look at is made once.

use std::collections::HashMap;
use std::hash::Hash;
use std::sync::{Mutex, PoisonError};

/// Answers kept at once; a page of a large bank has about 100 kB.
const KEPT: usize = 48;

/// Answers by what they were asked for, each with the commits that there were when it was made.
#[derive(Debug)]
pub struct Pages<K, V>(Mutex<HashMap<K, (u64, V)>>);

impl<K, V> Default for Pages<K, V> {
    fn default() -> Self {
        Self(Mutex::default())
    }
}

impl<K: Eq + Hash, V: Clone> Pages<K, V> {
    /// The answer, if nothing was committed since it was made.
    pub fn get(&self, key: &K, commits: u64) -> Option<V> {
        let pages = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        pages.get(key).filter(|(then, _)| *then == commits).map(|(_, page)| page.clone())
    }

    /// Keeps an answer; `commits` as they were before it was read.
    pub fn keep(&self, key: K, commits: u64, page: V) {
        let mut pages = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if pages.len() >= KEPT && !pages.contains_key(&key) {
            pages.retain(|_, (then, _)| *then == commits);
            if pages.len() >= KEPT {
                pages.clear();
            }
        }
        pages.insert(key, (commits, page));
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_page_is_good_until_something_is_committed() {
        let pages = Pages::default();
        pages.keep("a", 7, "one");
        assert_eq!(pages.get(&"a", 7), Some("one"));
        assert_eq!(pages.get(&"a", 8), None);
        assert_eq!(pages.get(&"b", 7), None);
        for n in 0..2 * KEPT {
            pages.keep(["c", "d"][n % 2], 9, "two");
        }
        assert_eq!(pages.get(&"d", 9), Some("two"));
    }
}
