//! Letting a phone in: a one-time code shown on the desk, a token kept by the phone.

use crate::db::Scope;
use jiff::Timestamp;
use std::fmt::Write as _;
use std::sync::{Mutex, PoisonError};

/// A code lives this long, minutes.
const LIVES_MINUTES: i64 = 10;
/// Wrong codes in a row before it is thrown away.
const ATTEMPTS: u32 = 5;
/// After that many wrong codes in all, nobody is listened to for so many minutes.
const LOCKED_AFTER: u32 = 10;
const LOCKED_MINUTES: i64 = 15;

/// What became of an attempt.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Attempt {
    /// The code was right, for a device that may do this; it is used up.
    Right(Scope),
    /// No code is open, or it is too old.
    NoCode,
    /// Wrong.
    Wrong,
    /// Too many wrong ones.
    Locked,
}

#[derive(Debug, Default)]
struct Open {
    code: Option<(String, Timestamp)>,
    scope: Scope,
    wrong: u32,
    wrong_in_all: u32,
    locked_until: Option<Timestamp>,
}

/// The one open code.
#[derive(Debug, Default)]
pub struct Pairing(Mutex<Open>);

/// Random hexadecimal text from the operating system.
pub fn random_hex(bytes: usize) -> String {
    // A version 4 UUID is 122 random bits from the operating system.
    let mut text = String::new();
    while text.len() < bytes * 2 {
        let _ = write!(text, "{}", uuid::Uuid::new_v4().simple());
    }
    text.truncate(bytes * 2);
    text
}

/// How a token is kept.
pub fn hash_of(token: &str) -> String {
    crate::photos::hash_of(token.as_bytes())
}

/// True for equal texts, in a time that does not tell where they differ.
fn same(a: &str, b: &str) -> bool {
    a.len() == b.len() && a.bytes().zip(b.bytes()).fold(0, |differ, (x, y)| differ | (x ^ y)) == 0
}

fn minutes_since(then: Timestamp, now: Timestamp) -> i64 {
    now.duration_since(then).as_secs() / 60
}

impl Pairing {
    /// Opens a new code of eight digits for a device that may do this; one that was open before is void.
    pub fn open(&self, now: Timestamp, scope: Scope) -> String {
        let number = u128::from_str_radix(&random_hex(12), 16).unwrap_or(0) % 100_000_000;
        let code = format!("{number:08}");
        let mut open = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        open.code = Some((code.clone(), now));
        open.scope = scope;
        open.wrong = 0;
        open.locked_until = None;
        code
    }

    /// Tries a code.
    pub fn attempt(&self, typed: &str, now: Timestamp) -> Attempt {
        let mut open = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if open.locked_until.is_some_and(|until| now < until) {
            return Attempt::Locked;
        }
        let digits: String = typed.chars().filter(char::is_ascii_digit).collect();
        let fresh = open.code.clone().filter(|(_, made)| minutes_since(*made, now) < LIVES_MINUTES);
        let Some((code, _)) = fresh else {
            open.code = None;
            return Attempt::NoCode;
        };
        if same(&code, &digits) {
            let scope = open.scope;
            *open = Open::default();
            return Attempt::Right(scope);
        }
        open.wrong += 1;
        open.wrong_in_all += 1;
        if open.wrong >= ATTEMPTS {
            open.code = None;
        }
        if open.wrong_in_all >= LOCKED_AFTER {
            open.wrong_in_all = 0;
            open.locked_until = now.checked_add(jiff::SignedDuration::from_mins(LOCKED_MINUTES)).ok();
            return Attempt::Locked;
        }
        Attempt::Wrong
    }
}

/// The cookie that a version before this one gave.
pub const OLD_COOKIE: &str = "rainshadow_device";
/// The cookie that holds a device's token; browsers keep cookies of all ports of a host together.
pub fn cookie_name(port: u16) -> String {
    format!("{OLD_COOKIE}_{port}")
}

#[cfg(test)]
mod tests {
    use super::*;

    fn at(minute: i64) -> Timestamp {
        Timestamp::from_second(1_790_000_000 + 60 * minute).unwrap()
    }

    fn other(code: &str) -> String {
        if code == "00000000" { "00000001".into() } else { "00000000".into() }
    }

    #[test]
    fn a_code_is_good_once_and_for_ten_minutes() {
        let pairing = Pairing::default();
        assert_eq!(pairing.attempt("12345678", at(0)), Attempt::NoCode);
        let code = pairing.open(at(0), Scope::All);
        assert!(code.len() == 8 && code.bytes().all(|b| b.is_ascii_digit()));
        assert_eq!(
            pairing.attempt(&format!("{} {}", &code[..4], &code[4..]), at(9)),
            Attempt::Right(Scope::All)
        );
        assert_eq!(pairing.attempt(&code, at(9)), Attempt::NoCode, "used up");
        let late = pairing.open(at(20), Scope::All);
        assert_eq!(pairing.attempt(&late, at(30)), Attempt::NoCode, "too old");
    }

    #[test]
    fn five_wrong_codes_void_it_and_ten_lock_the_door() {
        let pairing = Pairing::default();
        let code = pairing.open(at(0), Scope::All);
        for _ in 0..5 {
            assert_eq!(pairing.attempt(&other(&code), at(1)), Attempt::Wrong);
        }
        assert_eq!(pairing.attempt(&code, at(1)), Attempt::NoCode, "even the right one");
        let code = {
            let mut open = pairing.0.lock().unwrap();
            open.code = Some(("11111111".into(), at(2)));
            open.wrong = 0;
            "11111111".to_owned()
        };
        for _ in 0..4 {
            assert_eq!(pairing.attempt(&other(&code), at(2)), Attempt::Wrong);
        }
        assert_eq!(pairing.attempt(&other(&code), at(2)), Attempt::Locked);
        assert_eq!(pairing.attempt(&code, at(16)), Attempt::Locked);
        let code = pairing.open(at(17), Scope::All);
        assert_eq!(
            pairing.attempt(&code, at(17)),
            Attempt::Right(Scope::All),
            "the desk opens the door again"
        );
    }

    #[test]
    fn tokens_are_long_differ_and_are_kept_as_their_hash() {
        let (a, b) = (random_hex(32), random_hex(32));
        assert!(a.len() == 64 && a != b);
        assert_eq!(hash_of("abc"), "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
    }
}
