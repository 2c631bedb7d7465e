export declare const SECURITY_HEADERS: { key: string; value: string }[];
